<?php
// Chooses what is left for later: prints numbers of changes, by chance, or those of things that are open. Usage: part.php REVIEW-JSON SEED|open
[, $file, $seed] = $argv;
$items = json_decode(file_get_contents($file === '-' ? 'php://stdin' : $file), true)['items'];
mt_srand((int) $seed);
$whole = mt_rand(0, 2) > 0;
$left = [];
foreach ($items as $item) {
    $later = $seed === 'open' ? (bool) $item['open'] : mt_rand(0, 1);
    foreach ($item['numbers'] as $number) {
        if ($whole || $seed === 'open' ? $later : mt_rand(0, 1)) {
            $left[] = $number;
        }
    }
}
echo implode(',', $left);
