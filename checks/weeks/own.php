<?php
// What staging has for itself: an account, passwords, a key. Usage: own.php make|check
$_SERVER['HTTP_HOST'] = 'skerrow.example';
require getenv('CMS_FOLDER') . '/wp-load.php';
if ($argv[1] === 'make') {
    wp_insert_user(['user_login' => 'builder', 'user_email' => 'builder@skerrow.example', 'user_pass' => 'builds-it', 'role' => 'administrator']);
    wp_set_password('on-staging', 1);
    update_option('ferry_api_key', 'sk_test_4711');
    exit;
}
$wrong = [];
foreach (['builder' => 'builds-it', 'mira' => 'on-staging'] as $login => $password) {
    $user = wp_authenticate($login, $password);
    if (is_wp_error($user) || !user_can($user, 'manage_options')) {
        $wrong[] = "$login can't do anything: " . (is_wp_error($user) ? $user->get_error_code() : json_encode($user->allcaps));
    }
}
if (get_option('ferry_api_key') !== 'sk_test_4711') {
    $wrong[] = 'the key is ' . json_encode(get_option('ferry_api_key'));
}
foreach (['home', 'siteurl'] as $name) {
    $at = $GLOBALS['wpdb']->get_var("SELECT option_value FROM {$GLOBALS['wpdb']->options} WHERE option_name = '$name'");
    if ($at !== 'https://staging.skerrow.example') {
        $wrong[] = "$name is $at";
    }
}
foreach ($GLOBALS['wpdb']->get_results("SHOW TABLES") as $row) {
    foreach ($row as $table) {
        if (str_starts_with($table, $GLOBALS['wpdb']->prefix)) {
            foreach ($GLOBALS['wpdb']->get_results("SELECT * FROM `$table`", ARRAY_A) as $cells) {
                if (str_contains(implode("\n", array_map('strval', $cells)), '//skerrow.example')) {
                    $wrong[] = "$table has live's address: " . json_encode($cells);
                }
            }
        }
    }
}
echo implode("\n", $wrong);
exit($wrong ? 1 : 0);
