<?php
require __DIR__ . '/../weeks/install.php';
