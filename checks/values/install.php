<?php
// Installs the CMS into the database of the environment, without a word to anybody.
$_SERVER['HTTP_HOST'] = 'skerrow.example';
define('WP_INSTALLING', true);
function wp_new_blog_notification(...$ignored) {}
require getenv('CMS_FOLDER') . '/wp-load.php';
require_once ABSPATH . 'wp-admin/includes/upgrade.php';
wp_install('Skerrow Ferries', 'mira', 'mira@skerrow.example', true, '', 'not-a-secret');
update_option('home', 'https://skerrow.example');
update_option('siteurl', 'https://skerrow.example');
update_option('stylesheet', 'skerrow');
update_option('theme_mods_skerrow', [
    'nav_menu_locations' => ['top' => wp_create_nav_menu('Top')],
    'header' => ['colour' => 'navy', 'text' => 'Sails all year'],
]);
update_option('active_plugins', ['map/map.php', 'form/form.php']);
