<?php
// Installs the CMS into the database of the environment and makes the site that both copies begin with. Everything has a mark, which no
// edit changes: by that the same thing is known on both copies, whatever its number, name and address.
$_SERVER['HTTP_HOST'] = 'skerrow.example';
define('WP_INSTALLING', true);
function wp_new_blog_notification(...$ignored) {}
require getenv('CMS_FOLDER') . '/wp-load.php';
require_once ABSPATH . 'wp-admin/includes/upgrade.php';
wp_install('Skerrow Ferries', 'mira', 'mira@skerrow.example', true, '', 'not-a-secret');
update_option('home', 'https://skerrow.example');
update_option('siteurl', 'https://skerrow.example');
update_option('permalink_structure', '/%postname%/');
wp_set_current_user(1);
require __DIR__ . '/things.php';
foreach (get_posts(['post_type' => 'any', 'post_status' => 'any', 'numberposts' => -1]) as $sample) {
    wp_delete_post($sample->ID, true);
}
wp_create_nav_menu('Main');
for ($i = 1; $i <= 3; $i++) {
    picture(mark('b'));
    category(mark('b'), 0);
}
for ($i = 1; $i <= 4; $i++) {
    page(mark('b'), 0, "First text $i.", 0);
}
for ($i = 1; $i <= 4; $i++) {
    article(mark($i % 2 ? 'b' : 'x'), "First article $i.", chosen('attachment'));
}
entry(mark('b'), chosen('page'), 0);
entry(mark('b'), chosen('page'), 0);
update_option('skerrow_booking', ['days' => 30, 'mail' => ['copy' => 0], 'ship' => 0, 'teaser' => ['image_id' => chosen('attachment')]]);
// Tables of an extension that no model names: what editors enter, and what visitors order.
$wpdb->query("CREATE TABLE {$wpdb->prefix}ferry_sailings (id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, mark VARCHAR(20) NOT NULL,
    title VARCHAR(200) NOT NULL, page_id BIGINT UNSIGNED NOT NULL DEFAULT 0, picture_id BIGINT UNSIGNED NOT NULL DEFAULT 0,
    parent_id BIGINT UNSIGNED NOT NULL DEFAULT 0, notes TEXT NOT NULL, details LONGTEXT NOT NULL) DEFAULT CHARSET utf8mb4");
$wpdb->query("CREATE TABLE {$wpdb->prefix}ferry_bookings (id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, sailing_id BIGINT UNSIGNED NOT NULL,
    email VARCHAR(200) NOT NULL, phone VARCHAR(40) NOT NULL, amount DECIMAL(8,2) NOT NULL, created_at DATETIME NOT NULL) DEFAULT CHARSET utf8mb4");
for ($i = 1; $i <= 4; $i++) {
    sailing(mark($i % 2 ? 'b' : 'x'), chosen('page'), chosen('attachment'), chosen('sailing'));
}
booking();
