<?php
// Installs the CMS into the database of the environment and makes the site that both copies begin with.
$_SERVER['HTTP_HOST'] = 'skerrow.example';
define('WP_INSTALLING', true);
function wp_new_blog_notification(...$ignored) {}
require getenv('CMS_FOLDER') . '/wp-load.php';
require_once ABSPATH . 'wp-admin/includes/upgrade.php';
wp_install('Skerrow Ferries', 'mira', 'mira@skerrow.example', true, '', 'not-a-secret');
update_option('home', 'https://skerrow.example');
update_option('siteurl', 'https://skerrow.example');
update_option('permalink_structure', '/%postname%/');
wp_insert_user(['user_login' => 'tove', 'user_email' => 'tove@skerrow.example', 'user_pass' => 'x', 'role' => 'editor']);
wp_set_current_user(1);
require __DIR__ . '/site.php';

$timetable = page('timetable', 'Sailings all year.');
page('harbours', "Brae has a café.\n\nHesk has a slip.\n\nNorrey has a pier.");
page('fares', 'Adults 12.');
page('contact', 'Write to us.');
page('old-festival', 'Last year.');
page('old-news', 'Nobody reads this.');
page('lost-property', 'Ask in Brae.');
page('winter-plan', 'Not yet.', ['post_status' => 'draft']);
page('brae', 'The harbour of Brae.', ['post_parent' => named('harbours')]);
page('moving', 'Moves under another page.');
wp_update_post(['ID' => $timetable, 'post_content' => 'Sailings all year, twice a day.']);
foreach (['first', 'second', 'third', 'fourth'] as $slug) {
    article($slug, "The $slug article.");
}
picture('harbour-view');
picture('selkie');
comment('old-festival', 'Tove', 'Lovely.');
$first = comment('old-news', 'Jon', 'First!');
comment('old-news', 'Tove', 'Second!', ['comment_parent' => $first]);
comment('fares', 'Kari', 'Too dear.');
comment('lost-property', 'Per', 'I lost a glove.');
page('lost-ring', 'Whose ring is this?');
comment('lost-ring', 'Ada', 'Mine!');
comment('lost-ring', 'Bob', 'Rings, cheap', ['comment_approved' => 'spam']);
wp_trash_post(named('lost-ring'));
detail('second', 'port_of_call', 'Brae');
detail('third', 'subtitle', 'On board');
detail('third', 'obsolete', 'yes');
wp_insert_term('Routes', 'category', ['slug' => 'routes']);
wp_insert_term('Ships', 'category', ['slug' => 'ships']);
wp_insert_term('Unused', 'category', ['slug' => 'unused']);
wp_set_object_terms(named('first', 'post'), ['routes'], 'category');
wp_set_object_terms(named('second', 'post'), ['snow'], 'post_tag');
$menu = wp_create_nav_menu('Main');
entry($menu, 'Timetable', 'timetable', 1);
entry($menu, 'Fares', 'fares', 2);
entry($menu, 'Contact', 'contact', 3);
update_option('theme_mods_skerrow', ['nav_menu_locations' => ['top' => $menu], 'header' => ['colour' => 'navy', 'text' => 'All year']]);
update_option('active_plugins', ['map/map.php', 'form/form.php']);
update_option('sticky_posts', [named('first', 'post')]);
update_option('widget_text', [2 => ['title' => 'Office', 'text' => 'Open from nine'], '_multiwidget' => 1]);
update_option('sidebars_widgets', ['wp_inactive_widgets' => [], 'side' => ['text-2'], 'array_version' => 3]);
update_option('skerrow_booking', ['days' => 30, 'mail' => ['to' => 'desk@skerrow.example', 'copy' => false]]);
