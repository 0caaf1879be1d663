<?php
// What a copy shows, as JSON: things by mark, their cells by name, references by the mark of what they mean. Says what is broken in it.
$_SERVER['HTTP_HOST'] = 'skerrow.example';
require getenv('CMS_FOLDER') . '/wp-load.php';
require __DIR__ . '/things.php';
global $wpdb;
$names = [0 => ''];
$state = [];
$wrong = [];
foreach ($wpdb->get_results("SELECT post_id, meta_value FROM $wpdb->postmeta WHERE meta_key = 'skerrow_mark'") as $row) {
    if (in_array($row->meta_value, $names, true)) {
        $wrong[] = "$row->meta_value is there twice";
    }
    $names[(int) $row->post_id] = $row->meta_value;
}
$terms = [0 => ''];
foreach ($wpdb->get_results("SELECT term_id, meta_value FROM $wpdb->termmeta WHERE meta_key = 'skerrow_mark'") as $row) {
    if (in_array($row->meta_value, $terms, true)) {
        $wrong[] = "$row->meta_value is there twice";
    }
    $terms[(int) $row->term_id] = $row->meta_value;
}
$named = fn ($id) => $names[(int) $id] ?? "no $id";
foreach ($wpdb->get_results("SELECT * FROM $wpdb->posts WHERE post_type IN ('page', 'post', 'attachment', 'nav_menu_item')") as $post) {
    if (!isset($names[(int) $post->ID])) {
        $wrong[] = "$post->post_type $post->ID '$post->post_title' has no mark";
        continue;
    }
    $cells = ['type' => $post->post_type, 'title' => $post->post_title, 'slug' => $post->post_name, 'status' => $post->post_status, 'parent' => $named($post->post_parent)];
    if ($post->post_type === 'nav_menu_item') {
        unset($cells['slug']); // The CMS names an entry by its number.
    }
    if (preg_match('/^<p>(.*?)<\/p>\n\n<p>' . preg_quote(SAME, '/') . '<\/p>\n\n(?:<!-- wp:image {"id":(\d+)} -->.*uploads\/(\w+).jpg.*wp-image-(\d+).*|<p>No picture.<\/p>)$/s', $post->post_content, $found)) {
        $cells['text'] = $found[1];
        $cells['picture'] = $named($found[2] ?? 0);
        if ($named($found[2] ?? 0) !== ($found[3] ?? '') || ($found[2] ?? 0) !== ($found[4] ?? 0)) {
            $wrong[] = $names[(int) $post->ID] . " shows another picture than it says: $found[0]";
        }
    } elseif ($post->post_content !== '') {
        $wrong[] = $names[(int) $post->ID] . " has an odd text: $post->post_content";
    }
    foreach ($wpdb->get_results("SELECT meta_key, meta_value FROM $wpdb->postmeta WHERE post_id = $post->ID") as $meta) {
        if ($meta->meta_key === '_thumbnail_id') {
            $key = 'thumbnail';
            $value = $named($meta->meta_value);
        } elseif ($meta->meta_key === '_menu_item_object_id') {
            $key = 'opens';
            $value = $named($meta->meta_value);
        } elseif ($meta->meta_key === '_menu_item_menu_item_parent') {
            $key = 'above';
            $value = $named($meta->meta_value);
        } elseif ($meta->meta_key === 'subtitle' || $meta->meta_key === '_wp_attached_file') {
            $key = $meta->meta_key;
            $value = $meta->meta_value;
        } else {
            continue;
        }
        if (isset($cells[$key])) {
            $wrong[] = $names[(int) $post->ID] . " has two of $key";
        }
        $cells[$key] = $value;
    }
    foreach (wp_get_object_terms($post->ID, ['category', 'nav_menu']) as $term) {
        $cells['in ' . ($terms[$term->term_id] ?? $term->slug)] = 'yes';
    }
    $state[$names[(int) $post->ID]] = $cells;
}
foreach (get_terms(['taxonomy' => ['category', 'nav_menu'], 'hide_empty' => false]) as $term) {
    $mark = $terms[$term->term_id] ?? $term->slug;
    $state["term $mark"] = ['name' => $term->name, 'slug' => $term->slug, 'parent' => $terms[$term->parent] ?? "no $term->parent"];
    $count = $wpdb->get_var("SELECT COUNT(*) FROM $wpdb->term_relationships r JOIN $wpdb->posts p ON p.ID = r.object_id WHERE r.term_taxonomy_id = $term->term_taxonomy_id AND p.post_status = 'publish'");
    if ((int) $count !== $term->count) {
        $wrong[] = "$mark counts $term->count things and has $count";
    }
}
$sailings = [0 => ''] + array_column($wpdb->get_results("SELECT id, mark FROM {$wpdb->prefix}ferry_sailings"), 'mark', 'id');
foreach ($wpdb->get_results("SELECT * FROM {$wpdb->prefix}ferry_sailings") as $row) {
    if (isset($state["sailing $row->mark"])) {
        $wrong[] = "sailing $row->mark is there twice";
    }
    $state["sailing $row->mark"] = ['title' => $row->title, 'notes' => $row->notes, 'page' => $named($row->page_id),
        'picture' => $named($row->picture_id), 'seats' => json_decode($row->details)->seats, 'harbour' => $named(json_decode($row->details)->harbour->page_id), 'parent' => $sailings[$row->parent_id] ?? "no $row->parent_id"];
}
foreach ($wpdb->get_results("SELECT * FROM {$wpdb->prefix}ferry_bookings") as $row) {
    $state["visitor $row->email"] = ['sailing' => $sailings[$row->sailing_id] ?? "no $row->sailing_id"];
}
$booking = get_option('skerrow_booking');
$state['site'] = ['front' => $named(get_option('page_on_front')), 'days' => $booking['days'], 'copy' => $booking['mail']['copy'], 'ship' => $booking['ship'],
    'teaser' => $named($booking['teaser']['image_id'])];
foreach ($wpdb->get_results("SELECT * FROM $wpdb->comments") as $comment) {
    $state["visitor $comment->comment_content"] = ['on' => $named($comment->comment_post_ID)];
}
foreach ($wpdb->get_results("SELECT p.ID, p.comment_count, COUNT(c.comment_ID) has FROM $wpdb->posts p LEFT JOIN $wpdb->comments c ON c.comment_post_ID = p.ID GROUP BY p.ID") as $row) {
    if ($row->comment_count !== $row->has) {
        $wrong[] = "$row->ID counts $row->comment_count comments and has $row->has";
    }
}
$roles = $wpdb->get_col("SELECT option_name FROM $wpdb->options WHERE option_name LIKE '%user\\_roles'");
if ($roles !== [$wpdb->prefix . 'user_roles']) {
    $wrong[] = 'nobody can do anything: ' . json_encode($roles);
}
foreach (['details of nothing' => "SELECT COUNT(*) FROM $wpdb->postmeta d LEFT JOIN $wpdb->posts p ON p.ID = d.post_id WHERE p.ID IS NULL",
    'relations of nothing' => "SELECT COUNT(*) FROM $wpdb->term_relationships r LEFT JOIN $wpdb->posts p ON p.ID = r.object_id WHERE p.ID IS NULL",
    'relations to nothing' => "SELECT COUNT(*) FROM $wpdb->term_relationships r LEFT JOIN $wpdb->term_taxonomy t ON t.term_taxonomy_id = r.term_taxonomy_id WHERE t.term_taxonomy_id IS NULL"] as $what => $query) {
    if ($wpdb->get_var($query) !== '0') {
        $wrong[] = $what;
    }
}
ksort($state);
foreach ($state as &$cells) {
    ksort($cells);
}
echo json_encode(['wrong' => $wrong, 'things' => $state], JSON_UNESCAPED_SLASHES);
