<?php
// Asks the CMS whether live has what was meant.
require __DIR__ . '/edits.php';
$wrong = 0;
$checked = 0;

function same($expected, $found, $what = '')
{
    global $wrong, $checked, $edit_name;
    $checked++;
    if ($expected !== $found) {
        $wrong++;
        echo "WRONG $edit_name $what\n  meant: ", var_export($expected, true), "\n  found: ", var_export($found, true), "\n";
    }
}
foreach (edits() as $edit_name => $edit) {
    try {
        $edit['judge']();
    } catch (Throwable $e) {
        $wrong++;
        echo "WRONG $edit_name: " . $e->getMessage() . ' at line ' . $e->getLine() . "\n";
    }
}
echo count(edits()), " kinds of edits, $checked answers of the CMS, $wrong wrong\n";
exit($wrong ? 1 : 0);
