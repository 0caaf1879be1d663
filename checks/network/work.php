<?php
// What is done on a site of the network, and what it must show. Usage: work.php HOST SITE second|staging|live|judge
[, $host, $site, $what] = $argv;
$_SERVER['HTTP_HOST'] = $host;
$_SERVER['REQUEST_URI'] = $site === '1' ? '/' : '/boats/';
$_SERVER['REMOTE_ADDR'] = '127.0.0.1';
require getenv('CMS_FOLDER') . '/wp-load.php';
require_once ABSPATH . 'wp-admin/includes/admin.php';
require __DIR__ . '/../site/site.php';
wp_set_current_user(1);
$wrong = 0;
$checked = 0;
function same($expected, $found, $what)
{
    global $wrong, $checked;
    $checked++;
    if ($expected !== $found) {
        $wrong++;
        echo "WRONG $what\n  meant: ", var_export($expected, true), "\n  found: ", var_export($found, true), "\n";
    }
}
function member($login)
{
    $id = wp_insert_user(['user_login' => $login, 'user_email' => "$login@skerrow.example", 'user_pass' => 'x', 'role' => 'editor']);
    return $id;
}
switch ("$what $site") {
    case 'second 1':
        $made = wp_insert_site(['domain' => $host, 'path' => '/boats/', 'title' => 'Boats', 'user_id' => 1, 'network_id' => 1]);
        is_wp_error($made) && exit($made->get_error_message());
        break;
    case 'staging 1':
        page('ferry', 'The ferry.');
        break;
    case 'live 1':
        page('news', 'News of live.');
        break;
    case 'staging 2':
        $ada = member('ada');
        page('selkie', 'MV Selkie, see <a href="' . get_option('home') . '/lunna/">MV Lunna</a>.', ['post_author' => $ada]);
        page('lunna', 'MV Lunna.', ['post_author' => $ada]);
        break;
    case 'live 2':
        $bo = member('bo');
        page('storm', 'No sailings.', ['post_author' => $bo]);
        break;
    case 'judge 1':
        same(['The ferry.', 'News of live.'], [get_post(named('ferry'))->post_content, get_post(named('news'))->post_content], 'pages of the first site');
        same([], get_posts(['post_type' => 'page', 'name' => 'selkie']), 'a page of the second site');
        break;
    case 'judge 2':
        $home = get_option('home');
        same("MV Selkie, see <a href=\"$home/lunna/\">MV Lunna</a>.", get_post(named('selkie'))->post_content, 'a page of the second site');
        same('ada', get_userdata(get_post(named('selkie'))->post_author)->user_login, 'who wrote it');
        same(['editor'], get_userdata(get_post(named('selkie'))->post_author)->roles, 'what they may do here');
        same('bo', get_userdata(get_post(named('storm'))->post_author)->user_login, 'who wrote the page of live');
        same([], get_posts(['post_type' => 'page', 'name' => 'ferry']), 'a page of the first site');
        break;
}
if ($what === 'judge') {
    echo "site $site of the network: $checked answers of the CMS, $wrong wrong\n";
}
exit($wrong ? 1 : 0);
