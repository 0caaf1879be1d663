<?php
// The merge as it is meant, thing by thing and cell by cell, by marks; knows nothing of tables and numbers.
// Usage: model.php merge BASE SOURCE TARGET take|keep|everything EXPECTED NEW-BASE
//        model.php compare EXPECTED ACTUAL
function read($file) { return json_decode(file_get_contents($file), true); }
$mode = $argv[1];
if ($mode === 'compare') {
    [$expected, $actual] = [read($argv[2])['things'], read($argv[3])];
    $wrong = $actual['wrong'];
    foreach (array_unique(array_merge(array_keys($expected), array_keys($actual['things']))) as $mark) {
        [$e, $a] = [$expected[$mark] ?? null, $actual['things'][$mark] ?? null];
        if ($e === null || $a === null) {
            if ($e !== $a) {
                $wrong[] = $mark . ($a === null ? ' is not there' : ' is there');
            }
            continue;
        }
        foreach (array_unique(array_merge(array_keys($e), array_keys($a))) as $cell) {
            if (($e[$cell] ?? null) !== ($a[$cell] ?? null)) {
                $wrong[] = "$mark: $cell is " . json_encode($a[$cell] ?? null) . ', not ' . json_encode($e[$cell] ?? null);
            }
        }
    }
    foreach ($wrong as $line) {
        echo "$line\n";
    }
    exit($wrong ? 1 : 0);
}
[, , $baseFile, $sourceFile, $targetFile, $answer, $expectedFile, $newBase] = $argv;
[$before, $source, $target] = [read($baseFile), read($sourceFile)['things'], read($targetFile)['things']];
$base = $before['things'];
// What one copy kept although the other removed it: whether it comes there again is a question.
$kept = $before['kept'] ?? [];
foreach (array_unique(array_merge(array_keys($base), array_keys($source), array_keys($target))) as $mark) {
    [$b, $s, $t] = [$base[$mark] ?? null, $source[$mark] ?? null, $target[$mark] ?? null];
    if (str_starts_with($mark, 'visitor ')) {
        if ($answer === 'everything' && $s !== null && $t === null) {
            $target[$mark] = $s;
        }
        continue; // A copy's own.
    }
    if ($s === null && $b !== null) {
        if ($t !== null && (array_diff_assoc($t, $b) === [] || $answer === 'take')) {
            // That the target took a detail away does not keep what the source removed altogether.
            unset($target[$mark]);
        } elseif ($t !== null && $answer === 'everything') {
            continue; // Nobody decided it.
        } elseif ($t !== null) {
            $kept[$mark] = true;
        }
        unset($base[$mark]);
    } elseif ($s !== null && $t === null && $s != $b) {
        if ($b === null && !isset($kept[$mark]) && ($s['status'] ?? '') === 'trash') {
            continue; // Made and binned at once: that travels nowhere.
        }
        if ($b !== null && array_diff_assoc($s, $b) === []) {
            continue; // That the source took a detail away does not bring back what the target removed altogether.
        }
        if ($b === null && !isset($kept[$mark]) || $answer === 'take') {
            $target[$mark] = $s;
        } elseif ($answer === 'everything') {
            continue;
        }
        $base[$mark] = $s;
    } elseif ($s !== null && $t !== null) {
        $open = [];
        foreach (array_unique(array_merge(array_keys($s), array_keys($b ?? []))) as $cell) {
            [$bc, $sc, $tc] = [$b[$cell] ?? null, $s[$cell] ?? null, $t[$cell] ?? null];
            if ($sc !== $bc && ($tc === $bc || $answer === 'take')) {
                if ($sc === null) {
                    unset($target[$mark][$cell]);
                } else {
                    $target[$mark][$cell] = $sc;
                }
            } elseif ($sc !== $bc && $tc !== $sc && $answer === 'everything') {
                $open[$cell] = $bc;
            }
        }
        $base[$mark] = array_filter($open + $s, fn ($value) => $value !== null);
    }
}
file_put_contents($expectedFile, json_encode(['things' => $target]));
file_put_contents($newBase, json_encode(['things' => $base, 'kept' => $kept]));
