<?php
// A site of pictures, each of one colour that its title and every page that shows it say. Usage:
// pictures.php install | begin | week COPY SEED | judge COPY
$_SERVER['HTTP_HOST'] = 'skerrow.example';
$_SERVER['REMOTE_ADDR'] = '127.0.0.1';
if ($argv[1] === 'install') {
    define('WP_INSTALLING', true);
    function wp_new_blog_notification(...$ignored) {}
}
require getenv('CMS_FOLDER') . '/wp-load.php';
require_once ABSPATH . 'wp-admin/includes/admin.php';
if ($argv[1] === 'install') {
    require_once ABSPATH . 'wp-admin/includes/upgrade.php';
    wp_install('Skerrow Ferries', 'mira', 'mira@skerrow.example', true, '', 'not-a-secret');
    update_option('home', 'https://skerrow.example');
    update_option('siteurl', 'https://skerrow.example');
}
wp_set_current_user(1);
kses_remove_filters();

/** Draws a picture of one colour. */
function draw($file, $colour, $width, $height)
{
    $image = imagecreatetruecolor($width, $height);
    imagefill($image, 0, 0, imagecolorallocate($image, ...sscanf($colour, '%2x%2x%2x')));
    wp_mkdir_p(dirname($file));
    imagepng($image, $file);
}

/** The colour of a file; empty if it is no picture. */
function colour($file)
{
    $image = is_file($file) ? @imagecreatefromstring(file_get_contents($file)) : false;
    if (!$image) {
        return '';
    }
    $rgb = imagecolorsforindex($image, imagecolorat($image, intdiv(imagesx($image), 2), intdiv(imagesy($image), 2)));
    return sprintf('%02x%02x%02x', $rgb['red'], $rgb['green'], $rgb['blue']);
}

function new_colour() { return sprintf('%06x', mt_rand(0, 0xffffff)); }

/** Uploads a picture as an editor does, sizes and all. */
function upload($name, $parent = 0)
{
    $colour = new_colour();
    $bits = tempnam(sys_get_temp_dir(), 'p');
    draw($bits, $colour, mt_rand(320, 420), mt_rand(310, 360));
    $id = media_handle_sideload(['name' => "$name.png", 'tmp_name' => $bits], $parent, $colour);
    if (is_wp_error($id)) {
        throw new Exception($id->get_error_message());
    }
    return $id;
}

/** Puts another picture in the place of one, under its name. */
function replace($id)
{
    $colour = new_colour();
    $file = get_attached_file($id);
    foreach (wp_get_attachment_metadata($id)['sizes'] ?? [] as $size) {
        @unlink(dirname($file) . '/' . $size['file']);
    }
    $before = filesize($file);
    draw($file, $colour, mt_rand(320, 420), mt_rand(310, 360));
    wp_update_attachment_metadata($id, wp_generate_attachment_metadata($id, $file));
    wp_update_post(['ID' => $id, 'post_title' => $colour]);
    foreach (get_posts(['post_type' => 'page', 'numberposts' => -1]) as $page) {
        if (str_contains($page->post_content, "wp-image-$id\"")) {
            wp_update_post(wp_slash(['ID' => $page->ID, 'post_content' => shown(ids($page->post_content))]));
        }
    }
}

/** The numbers of the pictures that a text shows. */
function ids($text)
{
    preg_match_all('/wp-image-(\d+)"/', $text, $found);
    return array_map('intval', $found[1]);
}

/** A text that shows pictures, in all the ways in which texts name files. */
function shown($ids)
{
    $text = '';
    foreach ($ids as $id) {
        $colour = get_post($id)->post_title;
        [$medium] = wp_get_attachment_image_src($id, 'medium');
        $text .= "<!-- wp:image {\"id\":$id,\"sizeSlug\":\"medium\"} -->\n<figure class=\"wp-block-image\"><a href=\""
            . wp_get_attachment_url($id) . "\"><img src=\"$medium\" alt=\"$colour\" class=\"wp-image-$id\"/></a></figure>\n<!-- /wp:image -->\n\n";
    }
    return $text;
}

function page($title, $ids)
{
    $id = wp_insert_post(wp_slash(['post_type' => 'page', 'post_status' => 'publish', 'post_title' => $title, 'post_name' => sanitize_title($title),
        'post_content' => shown($ids)]), true);
    set_post_thumbnail($id, $ids[0]);
    foreach ($ids as $picture) {
        wp_update_post(['ID' => $picture, 'post_parent' => $id]);
    }
    return $id;
}

function pictures()
{
    return get_posts(['post_type' => 'attachment', 'numberposts' => -1, 'orderby' => 'ID', 'order' => 'ASC']);
}

/** A picture that no page shows goes, files and all. */
function gone($id)
{
    global $wpdb;
    if (!$wpdb->get_var("SELECT COUNT(*) FROM $wpdb->posts WHERE post_type = 'page' AND post_content LIKE '%wp-image-$id\"%'")) {
        wp_delete_attachment($id, true);
    }
}

function week($copy, $seed)
{
    mt_srand(crc32("$copy $seed"));
    // Both copies use the same few names.
    $names = ['pier', 'harbour', 'selkie', 'ramp at brae', 'pier-1', 'ÅØ'];
    for ($i = mt_rand(1, 4); $i > 0; $i--) {
        $all = pictures();
        switch (mt_rand(0, 5)) {
            case 0:
            case 1:
            case 2:
                $ids = [];
                for ($n = mt_rand(1, 3); $n > 0; $n--) {
                    $ids[] = upload($names[array_rand($names)]);
                }
                page("$copy $seed $i", $ids);
                break;
            case 3:
                if ($all) {
                    replace($all[array_rand($all)]->ID);
                }
                break;
            case 4:
                $pages = get_posts(['post_type' => 'page', 'numberposts' => -1, 's' => $copy]);
                if ($pages) {
                    $page = $pages[array_rand($pages)];
                    $had = ids($page->post_content);
                    wp_delete_post($page->ID, true);
                    array_map('gone', $had);
                }
                break;
            case 5:
                upload($names[array_rand($names)]);
                break;
        }
    }
}

$wrong = 0;
$asked = 0;
function same($meant, $found, $what)
{
    global $wrong, $asked;
    $asked++;
    if ($meant !== $found) {
        $wrong++;
        echo "WRONG $what\n  meant: ", var_export($meant, true), "\n  found: ", var_export($found, true), "\n";
    }
}

/** Every picture and size is there and is what its title says; so is whatever a page shows. */
function judge($copy)
{
    global $wpdb;
    $base = wp_get_upload_dir();
    foreach (pictures() as $picture) {
        $file = get_attached_file($picture->ID);
        same($picture->post_title, colour($file), "$copy: picture $picture->ID, " . basename($file));
        $meta = wp_get_attachment_metadata($picture->ID);
        same($file, $base['basedir'] . '/' . $meta['file'], "$copy: file of $picture->ID");
        foreach ($meta['sizes'] as $name => $size) {
            $small = dirname($file) . '/' . $size['file'];
            same($picture->post_title, colour($small), "$copy: $name of $picture->ID, " . basename($small));
            same([$size['width'], $size['height']], array_slice(@getimagesize($small) ?: [], 0, 2), "$copy: how large $name of $picture->ID is");
        }
    }
    foreach (get_posts(['post_type' => 'page', 'numberposts' => -1]) as $page) {
        preg_match_all('/<a href="([^"]+)"><img src="([^"]+)" alt="([0-9a-f]{6})" class="wp-image-(\d+)"/', $page->post_content, $images, PREG_SET_ORDER);
        foreach ($images as [, $link, $src, $colour, $id]) {
            foreach ([$link, $src] as $url) {
                same(0, strpos($url, $base['baseurl']), "$copy: address in '$page->post_title'");
                same($colour, colour($base['basedir'] . rawurldecode(substr($url, strlen($base['baseurl'])))), "$copy: '$page->post_title' shows $url");
            }
            // A page that somebody keeps may show a picture that went; its files must be there all the same.
            if (get_post((int) $id)) {
                same($colour, get_post((int) $id)->post_title, "$copy: picture $id of '$page->post_title'");
            }
        }
    }
    foreach (new RecursiveIteratorIterator(new RecursiveDirectoryIterator($base['basedir'], FilesystemIterator::SKIP_DOTS)) as $file) {
        same(false, str_starts_with($file->getFilename(), '.weftex'), "$copy: $file was left");
    }
}

switch ($argv[1]) {
    case 'begin':
        page('harbours', [upload('pier'), upload('harbour')]);
        page('ships', [upload('selkie')]);
        upload('spare');
        break;
    case 'week':
        week($argv[2], $argv[3]);
        break;
    case 'judge':
        judge($argv[2]);
        echo "$argv[2]: $asked answers of the CMS, $wrong wrong\n";
        exit($wrong ? 1 : 0);
}
