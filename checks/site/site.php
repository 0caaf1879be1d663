<?php
// Words for the work on a site, on top of the API of the CMS.
kses_remove_filters();

/** The number of what has this slug. */
function named($slug, $type = 'page')
{
    global $wpdb;
    $ids = $wpdb->get_col($wpdb->prepare("SELECT ID FROM $wpdb->posts WHERE post_name = %s AND post_type = %s", $slug, $type));
    if (count($ids) !== 1) {
        throw new Exception(count($ids) . " rows are $type '$slug'");
    }
    return (int) $ids[0];
}

function insert($type, $slug, $content, $extra)
{
    $id = wp_insert_post(wp_slash($extra + ['post_type' => $type, 'post_name' => $slug, 'post_title' => ucfirst(strtr($slug, '-', ' ')),
        'post_content' => $content, 'post_status' => 'publish', 'post_author' => 1]), true);
    if (is_wp_error($id)) {
        throw new Exception($id->get_error_message());
    }
    return $id;
}
function page($slug, $content, $extra = []) { return insert('page', $slug, $content, $extra); }
function article($slug, $content, $extra = []) { return insert('post', $slug, $content, $extra); }

function edit($id, $changes)
{
    $done = wp_update_post(wp_slash(['ID' => $id] + $changes), true);
    if (is_wp_error($done)) {
        throw new Exception($done->get_error_message());
    }
}

function picture($slug)
{
    $id = wp_insert_attachment(['post_name' => $slug, 'post_title' => ucfirst(strtr($slug, '-', ' ')), 'post_mime_type' => 'image/jpeg',
        'guid' => get_option('siteurl') . "/wp-content/uploads/$slug.jpg"], "$slug.jpg", 0, true);
    wp_update_attachment_metadata($id, ['width' => 1200, 'height' => 800, 'file' => "$slug.jpg", 'sizes' => [], 'image_meta' => ['aperture' => '0']]);
    return $id;
}

function comment($slug, $author, $text, $extra = [])
{
    return wp_insert_comment($extra + ['comment_post_ID' => named($slug), 'comment_author' => $author, 'comment_content' => $text,
        'comment_author_email' => strtolower($author) . '@mail.example', 'comment_approved' => 1]);
}

function detail($slug, $key, $value) { add_post_meta(named($slug, 'post'), $key, wp_slash($value)); }

function entry($menu, $title, $slug, $position, $parent = 0)
{
    $id = wp_update_nav_menu_item($menu, 0, ['menu-item-title' => $title, 'menu-item-type' => 'post_type', 'menu-item-object' => 'page',
        'menu-item-object-id' => named($slug), 'menu-item-status' => 'publish', 'menu-item-position' => $position, 'menu-item-parent-id' => $parent]);
    if (is_wp_error($id)) {
        throw new Exception($id->get_error_message());
    }
    return $id;
}

/** A menu as it is shown: titles with the title of their parent, in order, and what they open. */
function menu($name)
{
    $entries = wp_get_nav_menu_items($name);
    $titles = [];
    foreach ($entries as $entry) {
        $titles[$entry->ID] = $entry->title;
    }
    return array_map(fn ($e) => ($e->menu_item_parent ? $titles[(int) $e->menu_item_parent] . ' > ' : '') . $e->title . ' = ' . $e->url, $entries);
}

function term($slug, $taxonomy) { return get_term_by('slug', $slug, $taxonomy); }

function rendered($id)
{
    $GLOBALS['post'] = get_post($id);
    setup_postdata($GLOBALS['post']);
    return apply_filters('the_content', $GLOBALS['post']->post_content);
}

/** What the front end, an editor at work, a login and the scheduler leave behind without anybody's meaning it. */
function noise($copy)
{
    update_post_meta(named('fares'), '_edit_lock', time() . ":1:$copy");
    update_post_meta(named('fares'), '_edit_last', $copy === 'staging' ? 1 : 2);
    get_default_post_to_edit('page', true);
    get_default_post_to_edit('post', true);
    set_transient("visited_$copy", range(1, 50), 3600);
    set_transient('rates', $copy, 3600);
    wp_schedule_event(time(), 'daily', "skerrow_$copy");
    WP_Session_Tokens::get_instance(1)->create(time() + 3600);
    wp_version_check();
    flush_rewrite_rules(false);
    wp_create_post_autosave(['post_ID' => named('contact'), 'post_type' => 'page', 'post_title' => "Contact $copy", 'post_content' => "autosaved on $copy"]);
    $trashed = page("thrown-away-$copy", 'Never mind.');
    wp_trash_post($trashed);
}
