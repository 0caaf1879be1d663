<?php
// What is done to a site in these weeks, on top of the API of the CMS. What others may refer to has a mark with 'b' and is never removed;
// what may be removed has one with 'x'.
require_once ABSPATH . 'wp-admin/includes/admin.php';
kses_remove_filters();

/** Between the text and the picture; a shorter text is merged as one thing. */
const SAME = 'Every day the boat leaves Brae at half past seven and calls at Hesk and Norrey before noon. Tickets are sold on board and at the desk. '
    . 'Dogs travel free and bicycles cost half a fare. In a storm the notice at the pier tells what is left of the day.';

function must($id)
{
    if (is_wp_error($id) || !$id) {
        throw new Exception(is_wp_error($id) ? $id->get_error_message() : 'nothing was made');
    }
    return (int) (is_array($id) ? $id['term_id'] : $id);
}

/** A mark that no thing on either copy has. */
function mark($class)
{
    global $born, $copy;
    return sprintf('%s%05d%s', $class, ++$born, $copy[0] ?? '');
}

/** The numbers of all things of a type that pass a test of their marks, by mark. */
function marked($type, $test = '/^b/')
{
    global $wpdb;
    $rows = $type === 'sailing' ? $wpdb->get_results("SELECT mark, id FROM {$wpdb->prefix}ferry_sailings") : ($type === 'category'
        ? $wpdb->get_results("SELECT m.meta_value mark, m.term_id id FROM $wpdb->termmeta m WHERE m.meta_key = 'skerrow_mark'")
        : $wpdb->get_results($wpdb->prepare("SELECT m.meta_value mark, m.post_id id FROM $wpdb->postmeta m JOIN $wpdb->posts p ON p.ID = m.post_id
            WHERE m.meta_key = 'skerrow_mark' AND p.post_type = %s", $type)));
    $found = [];
    foreach ($rows as $row) {
        if (preg_match($test, $row->mark)) {
            $found[$row->mark] = (int) $row->id;
        }
    }
    ksort($found);
    return $found;
}

/** One of them by chance; 0 if there is none. */
function chosen($type, $test = '/^b/')
{
    $all = array_values(marked($type, $test));
    return $all ? $all[mt_rand(0, count($all) - 1)] : 0;
}

/** One that is older than a mark, so that nothing comes to be above itself, whatever the other copy does. */
function older($type, $than)
{
    $all = array_filter(marked($type), fn ($mark) => substr($mark, 1, 5) < substr($than, 1, 5), ARRAY_FILTER_USE_KEY);
    return $all ? array_values($all)[mt_rand(0, count($all) - 1)] : 0;
}

function content($text, $picture)
{
    $shown = $picture ? "<!-- wp:image {\"id\":$picture} -->\n<figure class=\"wp-block-image\"><img src=\"" . get_option('siteurl') . "/wp-content/uploads/" . mark_of($picture) . ".jpg"
        . "\" class=\"wp-image-$picture\" alt=\"\"/></figure>\n<!-- /wp:image -->" : '<p>No picture.</p>';
    return "<p>$text</p>\n\n<p>" . SAME . "</p>\n\n$shown";
}

function insert($type, $mark, $extra)
{
    $id = must(wp_insert_post(wp_slash($extra + ['post_type' => $type, 'post_name' => "$type-$mark", 'post_title' => "New $mark",
        'post_status' => 'publish', 'post_author' => 1]), true));
    add_post_meta($id, 'skerrow_mark', $mark);
    return $id;
}

function page($mark, $parent, $text, $picture)
{
    return insert('page', $mark, ['post_parent' => $parent, 'post_content' => content($text, $picture)]);
}

function article($mark, $text, $picture)
{
    return insert('post', $mark, ['post_content' => content($text, $picture)]);
}

function picture($mark)
{
    $id = must(wp_insert_attachment(['post_name' => "picture-$mark", 'post_title' => "New $mark", 'post_mime_type' => 'image/jpeg',
        'guid' => get_option('siteurl') . "/wp-content/uploads/$mark.jpg"], "$mark.jpg", 0, true));
    wp_update_attachment_metadata($id, ['width' => 1200, 'height' => 800, 'file' => "$mark.jpg", 'sizes' => []]);
    add_post_meta($id, 'skerrow_mark', $mark);
    return $id;
}

function category($mark, $parent)
{
    $id = must(wp_insert_term("New $mark", 'category', ['slug' => "category-$mark", 'parent' => $parent]));
    add_term_meta($id, 'skerrow_mark', $mark);
    return $id;
}

function entry($mark, $page, $parent)
{
    $menu = wp_get_nav_menu_object('Main')->term_id;
    $id = must(wp_update_nav_menu_item($menu, 0, ['menu-item-title' => "New $mark", 'menu-item-type' => 'post_type', 'menu-item-object' => 'page',
        'menu-item-object-id' => $page, 'menu-item-status' => 'publish', 'menu-item-parent-id' => $parent]));
    add_post_meta($id, 'skerrow_mark', $mark);
    return $id;
}

function edit($id, $changes)
{
    must(wp_update_post(wp_slash(['ID' => $id] + $changes), true));
}

function mark_of($id)
{
    return get_post_meta($id, 'skerrow_mark', true);
}

function sailing($mark, $page, $picture, $parent)
{
    global $wpdb;
    must($wpdb->insert("{$wpdb->prefix}ferry_sailings", ['mark' => $mark, 'title' => "New $mark", 'page_id' => $page, 'picture_id' => $picture,
        'parent_id' => $parent, 'notes' => "Notes of $mark.", 'details' => details($page, mt_rand(1, 9))]));
}

function details($page, $seats)
{
    return json_encode(['seats' => $seats, 'harbour' => ['page_id' => $page]]);
}

function change_sailing($changes)
{
    global $wpdb;
    $wpdb->update("{$wpdb->prefix}ferry_sailings", $changes, ['id' => chosen('sailing', '/^[bx]/')]);
}

function booking()
{
    global $wpdb;
    must($wpdb->insert("{$wpdb->prefix}ferry_bookings", ['sailing_id' => chosen('sailing'), 'email' => 'guest' . mt_rand() . '@skerrow.example',
        'phone' => '0' . mt_rand(), 'amount' => mt_rand(1, 99), 'created_at' => '2026-11-0' . mt_rand(1, 9) . ' 10:00:00']));
}
