<?php
// Asks the CMS whether live has what was meant. Usage: judge.php COUNT
$_SERVER['HTTP_HOST'] = 'skerrow.example';
require getenv('CMS_FOLDER') . '/wp-load.php';
require __DIR__ . '/random.php';
$count = (int) $argv[1];
$checked = 0;
$wrong = 0;

function check($what, $expected, $found)
{
    global $checked, $wrong;
    $checked++;
    if ($expected !== $found) {
        $wrong++;
        if ($wrong <= 10) {
            echo "WRONG $what\n  meant: ", var_export($expected, true), "\n  found: ", var_export($found, true), "\n";
        }
    }
}

function number($slug, $type)
{
    global $wpdb;
    $ids = $wpdb->get_col($wpdb->prepare("SELECT ID FROM $wpdb->posts WHERE post_name = %s AND post_type = %s", $slug, $type));
    if (count($ids) !== 1) {
        echo count($ids), " rows are $type '$slug'\n";
        exit(1);
    }
    return (int) $ids[0];
}

function detail($post, $key)
{
    $values = get_post_meta($post, $key);
    return count($values) === 1 ? $values[0] : count($values) . ' values';
}

$pictures = [];
for ($i = 0; $i < 20; $i++) {
    $pictures[] = number("picture-$i", 'attachment');
}
for ($i = 0; $i < $count; $i++) {
    $id = number("page-$i", 'page');
    $one = $pictures[$i % 20];
    $two = $pictures[($i + 7) % 20];
    $content = get_post($id)->post_content;
    preg_match('/"id":(\d+),"width":(\d+).*class="wp-image-(\d+)" width="(\d+)".*ids="(\d+),(\d+)".*href="([^"]*)"/s', $content, $m);
    check("$id: picture", (string) $one, $m[1]);
    check("$id: class", (string) $one, $m[3]);
    check("$id: gallery", "$one,$two", "$m[5],$m[6]");
    check("$id: link", "https://skerrow.example/?p=$two", $m[7]);
    check("$id: width stays as it was", $m[2], $m[4]);
    check("$id: no address of staging", false, strpos($content, 'staging.') !== false);
    check("$id: guid", "https://skerrow.example/?page_id=$id", get_post($id)->guid);
    check("$id: featured picture", (string) $two, detail($id, '_thumbnail_id'));
    check("$id: value $i", seen(made($i), true), seen(detail($id, 'made'), false));
    mt_srand(0);
    $json = json_decode(detail($id, 'made_json'), true);
    check("$id: JSON", true, is_array($json) && strpos(str_replace(DECOY, '', json_encode($json, JSON_UNESCAPED_SLASHES)), 'staging.skerrow') === false);
    check("live $i is untouched", 'Written on live.', get_post(number("live-$i", 'post'))->post_content);
}
for ($i = 0; $i < 50; $i++) {
    check("setting $i", seen(made(100000 + $i), true), seen(get_option("made_$i"), false));
}
$menu = (int) get_term_by('name', 'Winter', 'nav_menu')->term_id;
$top = (int) get_term_by('name', 'Top', 'nav_menu')->term_id;
check('a menu entry of a page', (string) number('page-' . ($count - 1), 'page'), detail(number('entry', 'nav_menu_item'), '_menu_item_object_id'));
check('a menu entry of a term', (string) $menu, detail(number('entry-term', 'nav_menu_item'), '_menu_item_object_id'));
check('theme settings of both', [
    'nav_menu_locations' => ['top' => $top, 'side' => $menu],
    'header' => ['colour' => 'teal', 'text' => 'Sails in winter, too'],
    'live' => 'kept',
    'custom_logo' => $pictures[3],
], get_option('theme_mods_skerrow'));
check('extensions of both', ['cache/cache.php', 'form/form.php', 'map/map.php', 'shop/shop.php'], get_option('active_plugins'));
check('sticky', [number('page-' . ($count - 1), 'page')], get_option('sticky_posts'));
check('numbers as keys', [$menu => [$menu]], get_option('skerrow_tree'));
check('a widget', $pictures[5], get_option('widget_media_image')[2]['attachment_id']);
check('live knows itself', 'https://skerrow.example', get_option('home'));
echo "$checked values checked by the CMS, $wrong wrong\n";
exit($wrong ? 1 : 0);
