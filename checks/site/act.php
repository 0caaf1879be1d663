<?php
// A week of work on one copy. Usage: act.php staging|live
require __DIR__ . '/edits.php';
$copy = $argv[1];
noise($copy);
foreach (edits() as $name => $edit) {
    try {
        if (isset($edit[$copy])) {
            $edit[$copy]();
        }
    } catch (Throwable $e) {
        fwrite(STDERR, "$copy: $name: " . $e->getMessage() . ' at line ' . $e->getLine() . "\n");
        exit(1);
    }
}
