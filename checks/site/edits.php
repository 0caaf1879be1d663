<?php
// Every kind of edit: what is done on staging, what on live, and what live must show after the merge.
$_SERVER['HTTP_HOST'] = 'skerrow.example';
$_SERVER['REMOTE_ADDR'] = '127.0.0.1';
require getenv('CMS_FOLDER') . '/wp-load.php';
require_once ABSPATH . 'wp-admin/includes/admin.php';
require __DIR__ . '/site.php';
wp_set_current_user(1);
const LIVE = 'https://skerrow.example';
define('HERE', untrailingslashit(get_option('home')));

function scheduled($slug, $time)
{
    return wp_insert_post(['post_type' => 'page', 'post_status' => 'future', 'post_name' => $slug, 'post_title' => $slug, 'post_content' => 'Soon.', 'post_date' => $time, 'post_date_gmt' => $time], true);
}

function future($slug)
{
    return get_posts(['post_type' => 'page', 'post_status' => 'future', 'name' => $slug, 'numberposts' => 1])[0]->ID ?? 0;
}

function edits()
{
    static $edits;
    return $edits ??= [
        'text of a page' => [
            'staging' => fn () => edit(named('timetable'), ['post_content' => 'Sailings all year, three times a day.']),
            'judge' => fn () => same('Sailings all year, three times a day.', get_post(named('timetable'))->post_content),
        ],
        'text on staging, title on live' => [
            'staging' => fn () => edit(named('fares'), ['post_content' => 'Adults 13.']),
            'live' => fn () => edit(named('fares'), ['post_title' => 'Fares 2027']),
            'judge' => function () {
                same('Adults 13.', get_post(named('fares'))->post_content);
                same('Fares 2027', get_post(named('fares'))->post_title);
            },
        ],
        'two paragraphs of one page' => [
            'staging' => fn () => edit(named('harbours'), ['post_content' => "Brae has a café and a bakery.\n\nHesk has a slip.\n\nNorrey has a pier."]),
            'live' => fn () => edit(named('harbours'), ['post_content' => "Brae has a café.\n\nHesk has a slip.\n\nNorrey has a new pier."]),
            'judge' => fn () => same("Brae has a café and a bakery.\n\nHesk has a slip.\n\nNorrey has a new pier.", get_post(named('harbours'))->post_content),
        ],
        'one title on both' => [
            'staging' => fn () => edit(named('contact'), ['post_title' => 'Write or ring']),
            'live' => fn () => edit(named('contact'), ['post_title' => 'Get in touch']),
            'judge' => fn () => same('Get in touch', get_post(named('contact'))->post_title, '(decided for live)'),
        ],
        'scheduled pages on both' => [
            'staging' => fn () => scheduled('ice-route', '2031-01-10 06:30:00'),
            'live' => fn () => scheduled('spring-offer', '2031-03-01 08:00:00'),
            'judge' => function () {
                foreach (['ice-route' => '2031-01-10 06:30:00', 'spring-offer' => '2031-03-01 08:00:00'] as $slug => $time) {
                    same('future', get_post(future($slug))->post_status);
                    same(strtotime("$time UTC"), wp_next_scheduled('publish_future_post', [future($slug)]), $slug);
                }
                // Its time has come: the scheduler publishes it, once.
                check_and_publish_future_post(future('ice-route'));
                same('future', get_post(future('ice-route'))->post_status, '(not before its time)');
                same(1, count(array_filter(_get_cron_array(), fn ($hooks) => isset($hooks['publish_future_post'][md5(serialize([future('ice-route')]))]))));
            },
        ],
        'new pages on both' => [
            'staging' => fn () => page('winter', 'Winter <a href="' . HERE . '/timetable/">sailings</a>.'),
            'live' => function () {
                foreach (range(1, 60) as $i) {
                    page("storm-$i", "Storm notice $i.");
                }
            },
            'judge' => function () {
                same('Winter <a href="' . LIVE . '/timetable/">sailings</a>.', get_post(named('winter'))->post_content);
                foreach (range(1, 60) as $i) {
                    same("Storm notice $i.", get_post(named("storm-$i"))->post_content);
                }
            },
        ],
        'a new page under a new page' => [
            'staging' => fn () => page('winter-hesk', 'To Hesk in winter.', ['post_parent' => named('winter')]),
            'judge' => fn () => same(LIVE . '/winter/winter-hesk/', get_permalink(named('winter-hesk'))),
        ],
        'a new page under an old one' => [
            'staging' => fn () => page('norrey', 'The harbour of Norrey.', ['post_parent' => named('harbours')]),
            'live' => fn () => page('hesk', 'The harbour of Hesk.', ['post_parent' => named('harbours')]),
            'judge' => function () {
                $found = wp_list_pluck(get_pages(['child_of' => named('harbours')]), 'post_name');
                sort($found);
                same(['brae-harbour', 'hesk', 'moving', 'norrey'], $found);
            },
        ],
        'a page that moves under another' => [
            'staging' => fn () => edit(named('moving'), ['post_parent' => named('harbours'), 'menu_order' => 7]),
            'live' => fn () => edit(named('moving'), ['post_excerpt' => 'An excerpt of live.']),
            'judge' => function () {
                same(LIVE . '/harbours/moving/', get_permalink(named('moving')));
                same([7, 'An excerpt of live.'], [get_post(named('moving'))->menu_order, get_post(named('moving'))->post_excerpt]);
            },
        ],
        'a page with another address' => [
            'staging' => fn () => edit(named('brae'), ['post_name' => 'brae-harbour']),
            'judge' => fn () => same(LIVE . '/harbours/brae-harbour/', get_permalink(named('brae-harbour'))),
        ],
        'a removed page' => [
            'staging' => fn () => wp_delete_post(named('old-news'), true),
            'judge' => function () {
                global $wpdb;
                same('0', $wpdb->get_var("SELECT COUNT(*) FROM $wpdb->posts WHERE post_name = 'old-news'"));
                same('0', $wpdb->get_var("SELECT COUNT(*) FROM $wpdb->postmeta d LEFT JOIN $wpdb->posts p ON p.ID = d.post_id WHERE p.ID IS NULL"), 'details of nothing');
                same('0', $wpdb->get_var("SELECT COUNT(*) FROM $wpdb->comments c LEFT JOIN $wpdb->posts p ON p.ID = c.comment_post_ID WHERE p.ID IS NULL"), 'comments on nothing');
                same('0', $wpdb->get_var("SELECT COUNT(*) FROM $wpdb->posts r LEFT JOIN $wpdb->posts p ON p.ID = r.post_parent WHERE r.post_type = 'revision' AND p.ID IS NULL"), 'revisions of nothing');
            },
        ],
        'a removed page with a new comment' => [
            'staging' => fn () => wp_delete_post(named('old-festival'), true),
            'live' => fn () => comment('old-festival', 'Siri', 'See you next year!'),
            'judge' => function () {
                same('Last year.', get_post(named('old-festival'))->post_content);
                same(['Lovely.', 'See you next year!'], wp_list_pluck(get_comments(['post_id' => named('old-festival'), 'order' => 'ASC']), 'comment_content'));
                same('2', get_post(named('old-festival'))->comment_count);
            },
        ],
        'a page in the bin' => [
            'staging' => function () {
                comment('lost-property', 'Tester', 'Only on staging.');
                wp_trash_post(named('lost-property'));
            },
            'live' => function () {
                comment('lost-property', 'Eva', 'And I a hat.', ['comment_approved' => '0']);
                comment('harbours', 'Per', 'Nothing to do with it.');
            },
            'judge' => function () {
                $page = get_post(named('lost-property__trashed'));
                same('trash', $page->post_status);
                same('publish', get_post_meta($page->ID, '_wp_trash_meta_status', true));
                // As if the CMS itself had put it there: its comments with it, and what each was before.
                global $wpdb;
                $comments = $wpdb->get_results("SELECT comment_ID, comment_author, comment_approved FROM $wpdb->comments WHERE comment_post_ID = $page->ID ORDER BY comment_ID");
                same([['Per', 'post-trashed'], ['Eva', 'post-trashed']], array_map(fn ($c) => [$c->comment_author, $c->comment_approved], $comments));
                same([(int) $comments[0]->comment_ID => '1', (int) $comments[1]->comment_ID => '0'], get_post_meta($page->ID, '_wp_trash_meta_comments_status', true));
            },
        ],
        'a page out of the bin' => [
            'staging' => fn () => wp_untrash_post(named('lost-ring__trashed')),
            'judge' => function () {
                global $wpdb;
                $page = get_post(named('lost-ring'));
                same('draft', $page->post_status);
                same(['1', 'spam'], $wpdb->get_col("SELECT comment_approved FROM $wpdb->comments WHERE comment_post_ID = $page->ID ORDER BY comment_ID"));
                same('', get_post_meta($page->ID, '_wp_trash_meta_comments_status', true));
            },
        ],
        'a draft that is published' => [
            'staging' => fn () => edit(named('winter-plan'), ['post_status' => 'publish', 'post_content' => 'Here it is.']),
            'judge' => fn () => same(['publish', 'Here it is.'], [get_post(named('winter-plan'))->post_status, get_post(named('winter-plan'))->post_content]),
        ],
        'two drafts without an address' => [
            'staging' => function () {
                page('', 'Draft one.', ['post_status' => 'draft', 'post_title' => 'Draft A']);
                page('', 'Draft two.', ['post_status' => 'draft', 'post_title' => 'Draft B']);
            },
            'live' => fn () => page('', 'Draft three.', ['post_status' => 'draft', 'post_title' => 'Draft C']),
            'judge' => function () {
                $drafts = get_posts(['post_type' => 'page', 'post_status' => 'draft', 'orderby' => 'title', 'order' => 'ASC', 'numberposts' => 10]);
                same(['Draft A', 'Draft B', 'Draft C'], array_values(array_filter(wp_list_pluck($drafts, 'post_title'), fn ($title) => str_starts_with($title, 'Draft'))));
                same('0000-00-00 00:00:00', $drafts[0]->post_date_gmt);
            },
        ],
        'a page with a password and a template' => [
            'staging' => fn () => update_post_meta(page('crew', 'For the crew.', ['post_password' => 'knots']), '_wp_page_template', 'wide.php'),
            'judge' => fn () => same(['knots', 'wide.php'], [get_post(named('crew'))->post_password, get_post_meta(named('crew'), '_wp_page_template', true)]),
        ],
        'the same page on both' => [
            'staging' => fn () => page('ice-warning', 'Ice on the slips.'),
            'live' => fn () => page('ice-warning', 'Ice at Hesk.'),
            'judge' => fn () => same('Ice on the slips.', get_post(named('ice-warning'))->post_content, '(decided for staging)'),
        ],
        'two pages of one address that are two' => [
            'staging' => function () {
                $day = page('open-day', 'Come and see the engines.', ['post_title' => 'Open day']);
                update_post_meta($day, '_wp_page_template', 'wide.php');
                set_post_thumbnail($day, named('selkie', 'attachment'));
                page('engines', 'Two of them.', ['post_parent' => $day]);
            },
            'live' => function () {
                $day = page('open-day', 'The office is open.', ['post_title' => 'Office hours']);
                update_post_meta($day, '_wp_page_template', 'wide.php');
            },
            'judge' => function () {
                same('The office is open.', get_post(named('open-day'))->post_content);
                $other = named('open-day-2');
                same('Come and see the engines.', get_post($other)->post_content);
                same(['wide.php', 'wide.php'], [get_post_meta(named('open-day'), '_wp_page_template', true), get_post_meta($other, '_wp_page_template', true)]);
                same(named('selkie', 'attachment'), get_post_thumbnail_id($other));
                same(0, get_post_thumbnail_id(named('open-day')));
                same(LIVE . '/open-day-2/engines/', get_permalink(named('engines')));
            },
        ],
        'a comment on a page that staging edits' => [
            'live' => fn () => comment('fares', 'Liv', 'Fair enough.'),
            'judge' => function () {
                same(['Too dear.', 'Fair enough.'], wp_list_pluck(get_comments(['post_id' => named('fares'), 'order' => 'ASC']), 'comment_content'));
                same('2', get_post(named('fares'))->comment_count);
            },
        ],
        'an answer, spam and an edited comment on live' => [
            'live' => function () {
                comment('contact', 'Ole', 'Buy now', ['comment_approved' => 'spam']);
                $first = comment('contact', 'Ann', 'Hello?');
                comment('contact', 'Mira', 'Hello!', ['comment_parent' => $first]);
                wp_update_comment(['comment_ID' => $first, 'comment_content' => 'Hello? Anybody?']);
            },
            'judge' => function () {
                $all = get_comments(['post_id' => named('contact'), 'status' => 'all', 'order' => 'ASC']);
                same(['Hello? Anybody?', 'Hello!'], wp_list_pluck($all, 'comment_content'));
                same((string) $all[0]->comment_ID, (string) $all[1]->comment_parent);
                same('2', get_post(named('contact'))->comment_count);
            },
        ],
        'comments made on staging' => [
            'staging' => fn () => comment('timetable', 'Tester', 'Only a test.'),
            'judge' => fn () => same([], get_comments(['post_id' => named('timetable')])),
        ],
        'an article with a new picture' => [
            'staging' => function () {
                $picture = picture('snow');
                update_post_meta($picture, '_wp_attachment_image_alt', 'Snow on deck');
                $id = article('snow-day', "<!-- wp:image {\"id\":$picture,\"width\":$picture} -->\n<figure class=\"wp-block-image\"><img src=\"" . wp_get_attachment_url($picture)
                    . "\" class=\"wp-image-$picture\" width=\"$picture\" alt=\"\"/></figure>\n<!-- /wp:image -->");
                set_post_thumbnail($id, $picture);
                update_option('skerrow_width', $picture);
            },
            'live' => fn () => picture('sun'),
            'judge' => function () {
                $picture = named('snow', 'attachment');
                $html = rendered(named('snow-day', 'post'));
                same(1, preg_match("/wp-image-$picture\"/", $html), 'class');
                same(1, preg_match('/src="' . preg_quote(LIVE, '/') . '[^"]*snow\.jpg"/', $html), 'source');
                same(1, preg_match('/width="' . get_option('skerrow_width') . '"/', $html), 'a width that equals the number stays');
                same($picture, get_post_thumbnail_id(named('snow-day', 'post')));
                same('Snow on deck', get_post_meta($picture, '_wp_attachment_image_alt', true));
                same('snow.jpg', wp_get_attachment_metadata($picture)['file']);
                same(LIVE . '/wp-content/uploads/snow.jpg', get_post($picture)->guid);
            },
        ],
        'galleries' => [
            'staging' => fn () => article('gallery', sprintf("<!-- wp:gallery {\"ids\":[%1\$d,%2\$d]} -->\n<figure><img data-id=\"%1\$d\" class=\"wp-image-%1\$d\"/></figure>\n<!-- /wp:gallery -->\n[gallery ids=\"%2\$d,%1\$d\"]",
                picture('pier'), named('selkie', 'attachment'))),
            'judge' => function () {
                [$pier, $selkie] = [named('pier', 'attachment'), named('selkie', 'attachment')];
                $text = get_post(named('gallery', 'post'))->post_content;
                same(true, strpos($text, "{\"ids\":[$pier,$selkie]}") !== false && strpos($text, "data-id=\"$pier\" class=\"wp-image-$pier\"") !== false);
                same(true, strpos($text, "[gallery ids=\"$selkie,$pier\"]") !== false);
            },
        ],
        'a reusable block' => [
            'staging' => fn () => article('with-block', '<!-- wp:block {"ref":' . insert('wp_block', 'notice', '<p>Mind the step.</p>', []) . '} /-->'),
            'judge' => fn () => same('<p>Mind the step.</p>', trim(rendered(named('with-block', 'post')))),
        ],
        'a link by number' => [
            'staging' => fn () => article('linked', '<a href="' . HERE . '/?page_id=' . named('winter') . '">there</a> and <a href="/?p=' . named('first', 'post') . '">here</a>'),
            'judge' => fn () => same('<a href="' . LIVE . '/?page_id=' . named('winter') . '">there</a> and <a href="/?p=' . named('first', 'post') . '">here</a>',
                get_post(named('linked', 'post'))->post_content),
        ],
        'first featured picture on both' => [
            'staging' => fn () => set_post_thumbnail(named('fourth', 'post'), named('harbour-view', 'attachment')),
            'live' => fn () => set_post_thumbnail(named('fourth', 'post'), named('selkie', 'attachment')),
            'judge' => fn () => same([(string) named('harbour-view', 'attachment')], get_post_meta(named('fourth', 'post'), '_thumbnail_id'), '(decided for staging)'),
        ],
        'details with one name' => [
            'staging' => function () {
                detail('second', 'port_of_call', 'Hesk');
                detail('second', 'port_of_call', 'Norrey');
            },
            'live' => fn () => detail('second', 'port_of_call', 'Skarvøy'),
            'judge' => function () {
                $ports = get_post_meta(named('second', 'post'), 'port_of_call');
                sort($ports);
                same(['Brae', 'Hesk', 'Norrey', 'Skarvøy'], $ports);
            },
        ],
        'a changed, a removed and a new detail' => [
            'staging' => function () {
                update_post_meta(named('third', 'post'), 'subtitle', 'On deck');
                delete_post_meta(named('third', 'post'), 'obsolete');
            },
            'live' => fn () => detail('third', 'seen', 'yes'),
            'judge' => fn () => same(['On deck', [], 'yes'], [get_post_meta(named('third', 'post'), 'subtitle', true), get_post_meta(named('third', 'post'), 'obsolete'),
                get_post_meta(named('third', 'post'), 'seen', true)]),
        ],
        'a detail in JSON, and one serialised' => [
            'staging' => function () {
                detail('third', 'map', json_encode(['tiles' => HERE . '/tiles/{z}', 'name' => 'Skarvøy']));
                detail('third', 'cargo', ['site' => HERE, 'tons' => 1.5, 'øre' => [1 => null], 'twice' => serialize(['at' => HERE . '/x'])]);
            },
            'judge' => function () {
                same(['tiles' => LIVE . '/tiles/{z}', 'name' => 'Skarvøy'], json_decode(get_post_meta(named('third', 'post'), 'map', true), true));
                same(['site' => LIVE, 'tons' => 1.5, 'øre' => [1 => null], 'twice' => serialize(['at' => LIVE . '/x'])], get_post_meta(named('third', 'post'), 'cargo', true));
            },
        ],
        'new categories on both' => [
            'staging' => function () {
                $term = wp_insert_term('Winter', 'category', ['slug' => 'winter-news']);
                add_term_meta($term['term_id'], 'colour', 'white');
                wp_set_object_terms(named('snow-day', 'post'), ['winter-news'], 'category');
            },
            'live' => function () {
                wp_insert_term('Storms', 'category', ['slug' => 'storms']);
                wp_set_object_terms(named('third', 'post'), ['storms'], 'category');
            },
            'judge' => function () {
                same(['winter-news'], wp_get_post_terms(named('snow-day', 'post'), 'category', ['fields' => 'slugs']));
                same(['storms'], wp_get_post_terms(named('third', 'post'), 'category', ['fields' => 'slugs']));
                same('white', get_term_meta(term('winter-news', 'category')->term_id, 'colour', true));
                same([1, 1], [term('winter-news', 'category')->count, term('storms', 'category')->count]);
            },
        ],
        'one category on both' => [
            'staging' => fn () => wp_set_object_terms(named('first', 'post'), [wp_insert_term('Crew', 'category', ['slug' => 'crew-news'])['term_id']], 'category', true),
            'live' => fn () => wp_set_object_terms(named('second', 'post'), [wp_insert_term('Crew', 'category', ['slug' => 'crew-news'])['term_id']], 'category', true),
            'judge' => function () {
                global $wpdb;
                same('1', $wpdb->get_var("SELECT COUNT(*) FROM $wpdb->terms WHERE slug = 'crew-news'"));
                same(2, term('crew-news', 'category')->count);
                foreach (['first', 'second'] as $slug) {
                    same(true, has_term('crew-news', 'category', named($slug, 'post')), $slug);
                }
            },
        ],
        'one slug for a category and a tag' => [
            'staging' => fn () => wp_set_object_terms(named('first', 'post'), ['ice'], 'post_tag'),
            'live' => fn () => wp_set_object_terms(named('second', 'post'), [wp_insert_term('Ice', 'category', ['slug' => 'ice'])['term_id']], 'category', true),
            'judge' => fn () => same([[1, 'ice'], [1, 'ice'], false], [[term('ice', 'post_tag')->count, term('ice', 'post_tag')->name],
                [term('ice', 'category')->count, term('ice', 'category')->slug], term('ice', 'post_tag')->term_id === term('ice', 'category')->term_id]),
        ],
        'a category under a category' => [
            'staging' => fn () => wp_insert_term('Hesk route', 'category', ['slug' => 'hesk-route', 'parent' => term('routes', 'category')->term_id]),
            'live' => fn () => wp_insert_term('Brae route', 'category', ['slug' => 'brae-route', 'parent' => term('routes', 'category')->term_id]),
            'judge' => function () {
                $children = array_map(fn ($id) => get_term($id)->slug, get_term_children(term('routes', 'category')->term_id, 'category'));
                sort($children);
                same(['brae-route', 'hesk-route'], $children);
            },
        ],
        'a renamed category' => [
            'staging' => fn () => wp_update_term(term('ships', 'category')->term_id, 'category', ['name' => 'The fleet', 'description' => 'All our ships']),
            'judge' => fn () => same(['The fleet', 'All our ships'], [term('ships', 'category')->name, term('ships', 'category')->description]),
        ],
        'a removed category' => [
            'staging' => fn () => wp_delete_term(term('unused', 'category')->term_id, 'category'),
            'judge' => fn () => same(false, term('unused', 'category')),
        ],
        'a tag on two articles' => [
            'staging' => fn () => wp_set_object_terms(named('third', 'post'), ['snow'], 'post_tag', true),
            'live' => fn () => wp_set_object_terms(named('fourth', 'post'), ['snow'], 'post_tag', true),
            'judge' => function () {
                same(3, term('snow', 'post_tag')->count);
                $tagged = wp_list_pluck(get_posts(['tag' => 'snow', 'numberposts' => 10]), 'post_name');
                sort($tagged);
                same(['fourth', 'second', 'third'], $tagged);
            },
        ],
        'entries of a menu' => [
            'staging' => function () {
                $menu = wp_get_nav_menu_object('Main');
                $winter = entry($menu->term_id, 'Winter', 'winter', 4);
                entry($menu->term_id, 'To Hesk', 'winter-hesk', 5, $winter);
                wp_update_nav_menu_item($menu->term_id, 0, ['menu-item-type' => 'taxonomy', 'menu-item-object' => 'category',
                    'menu-item-object-id' => term('winter-news', 'category')->term_id, 'menu-item-status' => 'publish', 'menu-item-position' => 6]);
                wp_update_nav_menu_item($menu->term_id, 0, ['menu-item-title' => 'Book', 'menu-item-type' => 'custom', 'menu-item-url' => HERE . '/book/',
                    'menu-item-status' => 'publish', 'menu-item-position' => 7]);
            },
            'live' => fn () => entry(wp_get_nav_menu_object('Main')->term_id, 'Storm', 'storm-1', 8),
            'judge' => fn () => same(['Timetable = ' . LIVE . '/timetable/', 'Fares 2027 = ' . LIVE . '/fares/', 'Winter = ' . LIVE . '/',
                'Winter > To Hesk = ' . LIVE . '/winter/winter-hesk/', 'Winter = ' . LIVE . '/about/winter-news/', 'Book = ' . LIVE . '/book/', 'Storm = ' . LIVE . '/storm-1/'], menu('Main')),
        ],
        'an entry that leaves the menu' => [
            'staging' => function () {
                foreach (wp_get_nav_menu_items('Main') as $entry) {
                    if ($entry->type === 'post_type' && (int) $entry->object_id === named('contact')) {
                        wp_delete_post($entry->ID, true);
                    }
                }
            },
            'judge' => fn () => same(7, wp_get_nav_menu_object('Main')->count),
        ],
        'a new menu and its place' => [
            'staging' => function () {
                $menu = wp_create_nav_menu('Footer');
                entry($menu, 'Crew', 'crew', 1);
                $mods = get_option('theme_mods_skerrow');
                $mods['nav_menu_locations']['bottom'] = $menu;
                $mods['custom_logo'] = named('snow', 'attachment');
                update_option('theme_mods_skerrow', $mods);
            },
            'live' => function () {
                wp_create_nav_menu('Live only');
                $mods = get_option('theme_mods_skerrow');
                $mods['header']['colour'] = 'teal';
                update_option('theme_mods_skerrow', $mods);
            },
            'judge' => function () {
                same(['Crew = ' . LIVE . '/crew/'], menu('Footer'));
                same(['nav_menu_locations' => ['top' => wp_get_nav_menu_object('Main')->term_id, 'bottom' => wp_get_nav_menu_object('Footer')->term_id],
                    'header' => ['colour' => 'teal', 'text' => 'All year'], 'custom_logo' => named('snow', 'attachment')], get_option('theme_mods_skerrow'));
                same(true, wp_get_nav_menu_object('Live only') !== false);
            },
        ],
        'settings of either' => [
            'staging' => fn () => update_option('blogname', 'Skerrow Ferries & Freight'),
            'live' => fn () => update_option('date_format', 'j. F Y'),
            'judge' => fn () => same(['Skerrow Ferries &amp; Freight', 'j. F Y'], [get_option('blogname'), get_option('date_format')]),
        ],
        'one setting on both' => [
            'staging' => fn () => update_option('blogdescription', 'All winter'),
            'live' => fn () => update_option('blogdescription', 'One family'),
            'judge' => fn () => same('One family', get_option('blogdescription'), '(decided for live)'),
        ],
        'members of one setting' => [
            'staging' => fn () => update_option('skerrow_booking', ['days' => 60, 'mail' => ['to' => 'desk@skerrow.example', 'copy' => false], 'ship' => 'Selkie']),
            'live' => fn () => update_option('skerrow_booking', ['days' => 30, 'mail' => ['to' => 'desk@skerrow.example', 'copy' => true]]),
            'judge' => fn () => same(['days' => 60, 'mail' => ['to' => 'desk@skerrow.example', 'copy' => true], 'ship' => 'Selkie'], get_option('skerrow_booking')),
        ],
        'one setting made on both' => [
            'staging' => fn () => add_option('skerrow_season', 'winter'),
            'live' => fn () => add_option('skerrow_season', 'winter'),
            'judge' => function () {
                global $wpdb;
                same(['winter'], $wpdb->get_col("SELECT option_value FROM $wpdb->options WHERE option_name = 'skerrow_season'"));
            },
        ],
        'extensions' => [
            'staging' => fn () => update_option('active_plugins', ['map/map.php', 'form/form.php', 'shop/shop.php']),
            'live' => fn () => update_option('active_plugins', ['cache/cache.php', 'map/map.php', 'form/form.php']),
            'judge' => function () {
                $active = get_option('active_plugins');
                sort($active);
                same(['cache/cache.php', 'form/form.php', 'map/map.php', 'shop/shop.php'], $active);
            },
        ],
        'sticky articles' => [
            'staging' => fn () => stick_post(named('snow-day', 'post')),
            'live' => fn () => stick_post(named('second', 'post')),
            'judge' => function () {
                $sticky = array_map(fn ($id) => get_post($id)->post_name, get_option('sticky_posts'));
                sort($sticky);
                same(['first', 'second', 'snow-day'], $sticky);
            },
        ],
        'widgets' => [
            'staging' => function () {
                update_option('widget_text', [2 => ['title' => 'Office', 'text' => 'Open from nine'], 3 => ['title' => 'Winter', 'text' => 'See ' . HERE . '/winter/'], '_multiwidget' => 1]);
                update_option('widget_nav_menu', [4 => ['nav_menu' => wp_get_nav_menu_object('Footer')->term_id], '_multiwidget' => 1]);
                update_option('sidebars_widgets', ['wp_inactive_widgets' => [], 'side' => ['text-2', 'text-3', 'nav_menu-4'], 'array_version' => 3]);
            },
            'live' => fn () => update_option('widget_text', [2 => ['title' => 'Office', 'text' => 'Open from eight'], '_multiwidget' => 1]),
            'judge' => function () {
                same([2 => ['title' => 'Office', 'text' => 'Open from eight'], '_multiwidget' => 1, 3 => ['title' => 'Winter', 'text' => 'See ' . LIVE . '/winter/']],
                    [2 => get_option('widget_text')[2], '_multiwidget' => 1, 3 => get_option('widget_text')[3]]);
                same(wp_get_nav_menu_object('Footer')->term_id, get_option('widget_nav_menu')[4]['nav_menu']);
                same(['text-2', 'text-3', 'nav_menu-4'], get_option('sidebars_widgets')['side']);
            },
        ],
        'the front page' => [
            'staging' => function () {
                update_option('show_on_front', 'page');
                update_option('page_on_front', named('winter'));
            },
            'judge' => fn () => same(['page', named('winter')], [get_option('show_on_front'), (int) get_option('page_on_front')]),
        ],
        'the form of addresses' => [
            'staging' => function () {
                global $wp_rewrite;
                $wp_rewrite->set_permalink_structure('/%postname%/');
                update_option('category_base', 'about');
            },
            'judge' => function () {
                same('about', get_option('category_base'));
                same('', get_option('rewrite_rules'), 'the rules are made anew by the next page view');
            },
        ],
        'a style sheet' => [
            'staging' => function () {
                $id = insert('custom_css', 'skerrow', 'body { background: url(' . HERE . '/sea.png) }', []);
                $mods = get_option('theme_mods_skerrow');
                $mods['custom_css_post_id'] = $id;
                update_option('theme_mods_winter', ['custom_css_post_id' => $id]);
            },
            'judge' => function () {
                same('body { background: url(' . LIVE . '/sea.png) }', get_post(named('skerrow', 'custom_css'))->post_content);
                same(named('skerrow', 'custom_css'), get_option('theme_mods_winter')['custom_css_post_id']);
            },
        ],
        'settings of a copy' => [
            'staging' => function () {
                update_option('blog_public', '0');
                update_option('admin_email', 'test@skerrow.example');
                update_option('mailserver_url', 'catcher.example');
            },
            'judge' => fn () => same(['1', 'mira@skerrow.example', LIVE, LIVE], [get_option('blog_public'), get_option('admin_email'), get_option('home'), get_option('siteurl')]),
        ],
        'an author who is new on both, known by login' => [
            'staging' => fn () => article('by-jon', 'By Jon.', ['post_author' => wp_insert_user(['user_login' => 'jon', 'user_email' => 'jon@test.example', 'user_pass' => 'a'])]),
            'live' => function () {
                wp_insert_user(['user_login' => 'customer', 'user_email' => 'c@mail.example', 'user_pass' => 'b']);
                wp_insert_user(['user_login' => 'jon', 'user_email' => 'jon@skerrow.example', 'user_pass' => 'b']);
            },
            'judge' => fn () => same('jon', get_userdata((int) get_post(named('by-jon', 'post'))->post_author)->user_login),
        ],
        'an author known by e-mail' => [
            'staging' => fn () => article('by-kari', 'By Kari.', ['post_author' => wp_insert_user(['user_login' => 'kari-test', 'user_email' => 'kari@skerrow.example', 'user_pass' => 'a'])]),
            'live' => fn () => wp_insert_user(['user_login' => 'kari', 'user_email' => 'kari@skerrow.example', 'user_pass' => 'b']),
            'judge' => fn () => same('kari', get_userdata((int) get_post(named('by-kari', 'post'))->post_author)->user_login),
        ],
        'an author whom the configuration names' => [
            'staging' => fn () => article('by-tester', 'By a tester.', ['post_author' => wp_insert_user(['user_login' => 'tester', 'user_email' => 't@test.example', 'user_pass' => 'a'])]),
            'judge' => fn () => same('tove', get_userdata((int) get_post(named('by-tester', 'post'))->post_author)->user_login),
        ],
        'accounts of live' => [
            'live' => fn () => wp_set_password('new on live', 2),
            'judge' => function () {
                same(['customer', 'jon', 'kari', 'mira', 'tove'], wp_list_pluck(get_users(['orderby' => 'login']), 'user_login'));
                same(true, wp_check_password('new on live', get_userdata(2)->user_pass));
            },
        ],
        'what nobody meant' => [
            'judge' => function () {
                global $wpdb;
                same(['live'], $wpdb->get_col("SELECT SUBSTRING_INDEX(meta_value, ':', -1) FROM $wpdb->postmeta WHERE meta_key = '_edit_lock'"), 'edit locks');
                same('0', $wpdb->get_var("SELECT COUNT(*) FROM $wpdb->posts WHERE post_content LIKE '%on staging%' OR post_name LIKE 'thrown-away-staging%'"));
                same([false, 'live'], [get_transient('visited_staging'), get_transient('rates')]);
                same([false, true], [(bool) wp_next_scheduled('skerrow_staging'), (bool) wp_next_scheduled('skerrow_live')]);
            },
        ],
        'addresses of staging' => [
            'judge' => function () {
                global $wpdb;
                foreach (['posts' => 'post_content', 'postmeta' => 'meta_value', 'options' => 'option_value', 'terms' => 'name', 'comments' => 'comment_content'] as $table => $column) {
                    same('0', $wpdb->get_var("SELECT COUNT(*) FROM {$wpdb->$table} WHERE $column LIKE '%staging.skerrow%'"), $table);
                }
                same('0', $wpdb->get_var("SELECT COUNT(*) FROM $wpdb->posts WHERE guid LIKE '%staging.skerrow%'"), 'guid');
            },
        ],
        'permanent identifiers' => [
            'judge' => function () {
                global $wpdb;
                same([], $wpdb->get_col("SELECT guid FROM $wpdb->posts WHERE guid LIKE '%?p%' GROUP BY guid HAVING COUNT(*) > 1"));
                same(LIVE . '/winter/', get_post(named('winter'))->guid);
                $draft = get_posts(['post_type' => 'page', 'post_status' => 'draft', 'title' => 'Draft A'])[0];
                same(LIVE . '/?page_id=' . $draft->ID, $draft->guid);
            },
        ],
    ];
}
