<?php
// The private installation of the CMS: everything comes from the environment.
define('DB_NAME', getenv('CMS_DATABASE'));
define('DB_USER', 'root');
define('DB_PASSWORD', '');
define('DB_HOST', '127.0.0.1:' . getenv('CMS_PORT'));
define('DB_CHARSET', 'utf8mb4');
define('DB_COLLATE', '');
define('WP_HTTP_BLOCK_EXTERNAL', true);
define('DISABLE_WP_CRON', true);
if (getenv('CMS_CONTENT')) {
    define('WP_CONTENT_DIR', getenv('CMS_CONTENT') . '/wp-content');
}
define('WP_POST_REVISIONS', getenv('CMS_REVISIONS') === '1');
if (getenv('CMS_NETWORK') === '1') {
    define('MULTISITE', true);
    define('SUBDOMAIN_INSTALL', false);
    define('DOMAIN_CURRENT_SITE', getenv('CMS_HOST'));
    define('PATH_CURRENT_SITE', '/');
    define('SITE_ID_CURRENT_SITE', 1);
    define('BLOG_ID_CURRENT_SITE', 1);
}
$table_prefix = getenv('CMS_PREFIX');
if (!defined('ABSPATH')) {
    define('ABSPATH', __DIR__ . '/');
}
require_once ABSPATH . 'wp-settings.php';
