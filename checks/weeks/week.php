<?php
// A week of random work on one copy. Usage: week.php COPY SEED FIRST-MARK EDITS
$_SERVER['HTTP_HOST'] = 'skerrow.example';
$_SERVER['REMOTE_ADDR'] = '127.0.0.1';
require getenv('CMS_FOLDER') . '/wp-load.php';
[, $copy, $seed, $born, $edits] = $argv;
require __DIR__ . '/things.php';
wp_set_current_user(1);
mt_srand((int) $seed);
const ANY = '/^[bx]/';

/** The text of a thing, and the picture in it. */
function parts($id)
{
    preg_match('/^<p>(.*?)<\/p>.*?(?:wp-image-(\d+)|No picture)/s', get_post($id)->post_content, $found);
    return [$found[1], (int) ($found[2] ?? 0)];
}

$works = [
    fn () => page(mark('b'), chosen('page'), "Text $GLOBALS[born].", chosen('attachment')),
    fn () => article(mark(mt_rand(0, 1) ? 'b' : 'x'), "Article $GLOBALS[born].", chosen('attachment')),
    fn () => article(mark('x'), "Article $GLOBALS[born].", 0),
    fn () => picture(mark('b')),
    fn () => category(mark('b'), mt_rand(0, 1) ? chosen('category') : 0),
    fn () => entry(mark(mt_rand(0, 1) ? 'b' : 'x'), chosen('page'), mt_rand(0, 1) ? chosen('nav_menu_item') : 0),
    function () {
        $type = ['page', 'post', 'post', 'attachment', 'nav_menu_item'][mt_rand(0, 4)];
        edit(chosen($type, ANY), ['post_title' => 'Title ' . mt_rand()]);
    },
    function () {
        $id = chosen(mt_rand(0, 1) ? 'page' : 'post', ANY);
        edit($id, ['post_content' => content('Words ' . mt_rand() . '.', parts($id)[1])]);
    },
    function () {
        $id = chosen(mt_rand(0, 1) ? 'page' : 'post', ANY);
        edit($id, ['post_content' => content(parts($id)[0], chosen('attachment'))]);
    },
    function () {
        // Of what is in the bin the CMS keeps the name, and remembers the other one: a detail that nothing here sees.
        $id = chosen(mt_rand(0, 1) ? 'page' : 'post', ANY);
        get_post_status($id) === 'trash' || edit($id, ['post_name' => 'slug-' . mt_rand()]);
    },
    fn () => set_post_thumbnail(chosen(mt_rand(0, 1) ? 'page' : 'post', ANY), chosen('attachment')),
    fn () => delete_post_thumbnail(chosen('post', ANY)),
    fn () => update_post_meta(chosen('post', ANY), 'subtitle', 'Subtitle ' . mt_rand()),
    fn () => delete_post_meta(chosen('post', ANY), 'subtitle'),
    function () {
        $id = chosen('page');
        edit($id, ['post_parent' => older('page', mark_of($id))]);
    },
    fn () => wp_set_object_terms(chosen('post', ANY), [chosen('category')], 'category', true),
    fn () => wp_remove_object_terms(chosen('post', ANY), [chosen('category')], 'category'),
    fn () => must(wp_update_term(chosen('category'), 'category', ['name' => 'Category ' . mt_rand(), 'slug' => 'category-' . mt_rand()])),
    fn () => update_post_meta(chosen('nav_menu_item', ANY), '_menu_item_object_id', chosen('page')),
    fn () => wp_delete_post(chosen('nav_menu_item', '/^x/'), true),
    fn () => wp_delete_post(chosen('post', '/^x/'), true),
    fn () => wp_delete_post(chosen('post', '/^x/'), true),
    function () {
        $id = chosen('post', '/^x/');
        $id && get_post_status($id) === 'publish' && wp_trash_post($id);
    },
    function () {
        $id = chosen('post', '/^x/');
        $id && get_post_status($id) === 'trash' && wp_untrash_post($id);
    },
    fn () => category(mark('x'), 0),
    fn () => ($id = chosen('category', '/^x/')) && wp_delete_term($id, 'category'),
    fn () => update_option('page_on_front', chosen('page')),
    function () {
        $booking = get_option('skerrow_booking');
        mt_rand(0, 1) ? $booking['days'] = mt_rand() : $booking['mail']['copy'] = mt_rand();
        update_option('skerrow_booking', $booking);
    },
    fn () => sailing(mark(mt_rand(0, 1) ? 'b' : 'x'), chosen('page'), chosen('attachment'), chosen('sailing')),
    fn () => change_sailing(['title' => 'Sailing ' . mt_rand()]),
    fn () => change_sailing(['notes' => 'Notes ' . mt_rand()]),
    fn () => change_sailing(['page_id' => chosen('page')]),
    fn () => change_sailing(['picture_id' => chosen('attachment')]),
    fn () => change_sailing(['details' => details(chosen('page'), mt_rand(1, 9))]),
    function () {
        $booking = get_option('skerrow_booking');
        $booking['teaser']['image_id'] = chosen('attachment');
        update_option('skerrow_booking', $booking);
    },
    fn () => $GLOBALS['wpdb']->delete("{$GLOBALS['wpdb']->prefix}ferry_sailings", ['id' => chosen('sailing', '/^x/')]),
    fn () => booking(),
];
if ($copy === 'live') {
    $works[] = fn () => booking();
    $works[] = fn () => wp_insert_comment(['comment_post_ID' => chosen('page'), 'comment_author' => 'Kari', 'comment_content' => 'Comment ' . mt_rand(),
        'comment_approved' => 1]);
}
for ($i = 0; $i < $edits; $i++) {
    $works[mt_rand(0, count($works) - 1)]();
}
