<?php
// Installs the CMS and makes it the roof over several sites.
$_SERVER['HTTP_HOST'] = 'skerrow.example';
define('WP_INSTALLING', true);
function wp_new_blog_notification(...$ignored) {}
require getenv('CMS_FOLDER') . '/wp-load.php';
require_once ABSPATH . 'wp-admin/includes/upgrade.php';
require_once ABSPATH . 'wp-admin/includes/network.php';
wp_install('Skerrow Ferries', 'mira', 'mira@skerrow.example', true, '', 'not-a-secret');
update_option('home', 'https://skerrow.example');
update_option('siteurl', 'https://skerrow.example');
foreach ($wpdb->tables('ms_global') as $table => $name) {
    $wpdb->$table = $name;
}
install_network();
$done = populate_network(1, 'skerrow.example', 'mira@skerrow.example', 'Skerrow', '/', false);
if (is_wp_error($done) && $done->get_error_code() !== 'no_wildcard_dns') {
    fwrite(STDERR, $done->get_error_message() . "\n");
    exit(1);
}
