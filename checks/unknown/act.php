<?php
// Work on a site with two extensions that no model names, and what live must show then. Usage: act.php staging|live|judge
[, $what] = $argv;
$_SERVER['HTTP_HOST'] = 'skerrow.example';
$_SERVER['REMOTE_ADDR'] = '127.0.0.1';
require getenv('CMS_FOLDER') . '/wp-load.php';
$copy = $what;
$born = ['staging' => 1000, 'live' => 2000, 'judge' => 3000][$what];
require __DIR__ . '/../weeks/things.php';
wp_set_current_user(1);
mt_srand(4);
$table = "{$wpdb->prefix}ferry_sailings";
$wrong = 0;
$checked = 0;
function same($expected, $found, $what)
{
    global $wrong, $checked;
    $checked++;
    if ($expected !== $found) {
        $wrong++;
        echo "WRONG $what\n  meant: ", json_encode($expected), "\n  found: ", json_encode($found), "\n";
    }
}
function sailing_of($mark)
{
    global $wpdb, $table;
    return $wpdb->get_row($wpdb->prepare("SELECT * FROM $table WHERE mark = %s", $mark), ARRAY_A);
}
if ($what === 'staging') {
    $picture = picture('b01001s');
    $page = page('b01002s', 0, 'Winter.', $picture);
    sailing('b01003s', $page, $picture, marked('sailing')['b00017']);
    $wpdb->update($table, ['title' => 'Edited on staging'], ['mark' => 'b00019']);
    $wpdb->delete($table, ['mark' => 'x00018']);
    $booking = get_option('skerrow_booking');
    $booking['teaser']['image_id'] = $picture;
    update_option('skerrow_booking', $booking);
    $ids = marked('sailing');
    $wpdb->insert("{$wpdb->prefix}ferry_bookings", ['sailing_id' => $ids['b01003s'], 'email' => 'test@skerrow.example', 'phone' => '1', 'amount' => 1,
        'created_at' => '2026-11-09 10:00:00']);
} elseif ($what === 'live') {
    $picture = picture('b02001l');
    page('b02002l', 0, 'Storm.', $picture);
    for ($i = 0; $i < 3; $i++) {
        booking();
    }
    $booking = get_option('skerrow_booking');
    $booking['days'] = 45;
    update_option('skerrow_booking', $booking);
} else {
    [$page, $picture] = [marked('page')['b01002s'] ?? 0, marked('attachment')['b01001s'] ?? 0];
    same(true, $page > 0 && $picture > 0, 'the new page and its picture are there');
    $new = sailing_of('b01003s');
    same([$page, $picture, (int) sailing_of('b00017')['id']], [(int) $new['page_id'], (int) $new['picture_id'], (int) $new['parent_id']], 'what the new sailing refers to');
    same($page, json_decode($new['details'], true)['harbour']['page_id'], 'the page inside its details');
    same('Edited on staging', sailing_of('b00019')['title'], 'an edited sailing');
    same(true, sailing_of('x00018') !== null, 'a sailing that staging removed, and whose removal was declined');
    $booking = get_option('skerrow_booking');
    same([45, $picture], [$booking['days'], $booking['teaser']['image_id']], 'members of a setting of both copies');
    same(4, (int) $wpdb->get_var("SELECT COUNT(*) FROM {$wpdb->prefix}ferry_bookings"), 'what visitors ordered on live');
    same(0, (int) $wpdb->get_var("SELECT COUNT(*) FROM {$wpdb->prefix}ferry_bookings WHERE email = 'test@skerrow.example'"), 'a test order of staging');
    same(true, (marked('page')['b02002l'] ?? 0) > 0, 'a page of live');
    echo "extensions that no model names: $checked answers of the CMS, $wrong wrong\n";
    exit($wrong ? 1 : 0);
}
