<?php
// A week of work on one copy. Usage: week.php staging|live COUNT
$_SERVER['HTTP_HOST'] = 'skerrow.example';
require getenv('CMS_FOLDER') . '/wp-load.php';
require __DIR__ . '/random.php';
[, $copy, $count] = $argv;
wp_set_current_user(1);
kses_remove_filters();
wp_defer_term_counting(true);

function detail($post, $key, $value)
{
    global $wpdb;
    $wpdb->insert($wpdb->postmeta, ['post_id' => $post, 'meta_key' => $key, 'meta_value' => maybe_serialize($value)]);
}

function post($slug, $type, $content, $extra = [])
{
    $id = wp_insert_post(wp_slash($extra + ['post_name' => $slug, 'post_title' => $slug, 'post_type' => $type,
        'post_status' => $type === 'attachment' ? 'inherit' : 'publish', 'post_content' => $content]), true);
    if (is_wp_error($id)) {
        fwrite(STDERR, $id->get_error_message() . "\n");
        exit(1);
    }
    return $id;
}

if ($copy === 'live') {
    // These take the numbers that staging's posts have there.
    for ($i = 0; $i < $count; $i++) {
        post("live-$i", 'post', 'Written on live.');
    }
    $mods = get_option('theme_mods_skerrow');
    $mods['header']['colour'] = 'teal';
    $mods['live'] = 'kept';
    update_option('theme_mods_skerrow', $mods);
    update_option('active_plugins', ['cache/cache.php', 'form/form.php', 'map/map.php']);
    exit;
}
$pictures = [];
for ($i = 0; $i < 20; $i++) {
    $pictures[] = post("picture-$i", 'attachment', '', ['post_mime_type' => 'image/jpeg', 'guid' => STAGING . "/p/$i.jpg"]);
}
$menu = wp_create_nav_menu('Winter');
for ($i = 0; $i < $count; $i++) {
    $one = $pictures[$i % 20];
    $two = $pictures[($i + 7) % 20];
    $id = post("page-$i", 'page', "<!-- wp:image {\"id\":$one,\"width\":$one} -->\n<figure class=\"wp-block-image\"><img src=\"" . STAGING
        . "/p/$i.jpg\" class=\"wp-image-$one\" width=\"$one\"/></figure>\n<!-- /wp:image -->\n[gallery ids=\"$one,$two\"]\n<a href=\""
        . STAGING . "/?p=$two\">more</a>");
    detail($id, '_thumbnail_id', $two);
    detail($id, 'made', made($i));
    detail($id, 'made_json', json_encode(made($i)['i'] % 2 ? ['u' => address()] : ['t' => text()]));
}
for ($i = 0; $i < 50; $i++) {
    update_option("made_$i", made(100000 + $i));
}
$entry = post('entry', 'nav_menu_item', '');
wp_set_object_terms($entry, [$menu], 'nav_menu');
detail($entry, '_menu_item_type', 'post_type');
detail($entry, '_menu_item_object_id', (string) $id);
$entry = post('entry-term', 'nav_menu_item', '');
wp_set_object_terms($entry, [$menu], 'nav_menu');
detail($entry, '_menu_item_type', 'taxonomy');
detail($entry, '_menu_item_object_id', (string) $menu);
$mods = get_option('theme_mods_skerrow');
$mods['nav_menu_locations']['side'] = $menu;
$mods['custom_logo'] = $pictures[3];
$mods['header']['text'] = 'Sails in winter, too';
update_option('theme_mods_skerrow', $mods);
update_option('active_plugins', ['map/map.php', 'form/form.php', 'shop/shop.php']);
update_option('sticky_posts', [$id]);
update_option('skerrow_tree', [$menu => [$menu]]);
update_option('widget_media_image', [2 => ['attachment_id' => $pictures[5], 'width' => $pictures[5]], '_multiwidget' => 1]);
