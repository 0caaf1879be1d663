<?php
// Compares a draft on a base that was worked out with the draft on the recorded one: worked-out.php RECORDED WORKED-OUT
function changes($file)
{
    $changes = [];
    foreach (file($file) as $line) {
        $change = json_decode($line, true);
        if (isset($change['change']) && empty($change['offered'])) {
            $kinds = array_column($change['conflicts'] ?? [], 'kind');
            $changes["$change[table] " . json_encode($change['key'])] = ['do' => $change['do'], 'after' => $change['after'] ?? null, 'question' => in_array('no-base', $kinds), 'why' => implode('; ', array_map(fn ($c) => $c['reason'] ?? '', $change['conflicts'] ?? []))];
        }
    }
    return $changes;
}
[$recorded, $worked] = [changes($argv[1]), changes($argv[2])];
$alike = $questions = $wrong = 0;
// What hangs on a row that is asked about can't be known before the answer.
$open = [];
foreach ($worked as $key => $w) {
    if ($w['question']) {
        [$table, $of] = explode(' ', $key, 2);
        $open[] = "$table#" . implode(',', json_decode($of, true));
    }
}
$hangs = fn ($change) => $change && array_filter($open, fn ($row) => str_contains(json_encode($change['after']), "\"new\":\"$row\""));
foreach ($recorded + $worked as $key => $ignored) {
    [$r, $w] = [$recorded[$key] ?? null, $worked[$key] ?? null];
    if ($w && $w['question']) {
        $questions++;
        echo getenv('VERBOSE') ? "asked: $key ($w[do]): $w[why]\n" : '';
    } elseif ($hangs($r)) {
        $questions++;
    } elseif ($r && $w && $r['do'] === $w['do'] && $r['after'] == $w['after']) {
        $alike++;
    } else {
        $wrong++;
        echo "WRONG without a question: $key is ", $w ? $w['do'] : 'no change', ' and should be ', $r ? $r['do'] : 'no change', "\n", getenv('VERBOSE') ? json_encode([$r, $w]) . "\n" : '';
    }
}
$all = count($recorded + $worked);
printf("worked-out base: %d of %d changes as on the recorded one, %d asked about, %d wrong\n", $alike, $all, $questions, $wrong);
exit($wrong ? 1 : 0);
