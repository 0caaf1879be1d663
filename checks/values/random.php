<?php
// Made-up values of every type that PHP serialises. The same seed makes the same values.
class Harbour
{
    public $name;
    protected $depth = 4.5;
    private $guide;

    public function __construct($name, $guide)
    {
        $this->name = $name;
        $this->guide = $guide;
    }
}

const STAGING = 'https://staging.skerrow.example';
const DECOY = 'https://staging.skerrow.example.org';

/** An address of staging in one of its forms. */
function address()
{
    $url = STAGING . '/' . ['fares', 'harbours/brae?x=1', 'Überfahrt', ''][mt_rand(0, 3)];
    switch (mt_rand(0, 6)) {
        case 0: return rawurlencode($url);
        case 1: return rawurlencode(rawurlencode($url));
        case 2: return str_replace('/', '\/', $url);
        case 3: return substr($url, 6);
        case 4: return 'http' . substr($url, 5);
        case 5: return str_replace('/', '&#47;', $url);
        default: return $url;
    }
}

function text()
{
    $words = ['ferry', 'Brae', 'ø', '🏮', '"quoted"', 'a;b:c{}', "line\nbreak", '\\', 's:5:"x";', DECOY];
    $text = '';
    for ($i = mt_rand(0, 6); $i > 0; $i--) {
        $text .= $words[mt_rand(0, count($words) - 1)] . ' ';
    }
    return mt_rand(0, 2) ? $text : $text . address() . ' ' . $text;
}

function json()
{
    $flags = mt_rand(0, 1) ? 0 : JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE;
    return json_encode(['u' => text(), 'n' => mt_rand(0, 99), 's' => serialize([text(), 1.5])], $flags);
}

function value($depth)
{
    switch (mt_rand(0, $depth > 0 ? 11 : 6)) {
        case 0: return null;
        case 1: return (bool) mt_rand(0, 1);
        case 2: return mt_rand(-2000000000, 2000000000) * 4000000000;
        case 3: return mt_rand(-9, 9) / 7;
        case 4: return [1.0E+25, -0.0, INF, 0.1][mt_rand(0, 3)];
        case 5:
        case 6: return text();
        case 7: return new Harbour(text(), value($depth - 1));
        case 8: return serialize(value($depth - 1));
        case 9: return json();
        default:
            $array = [];
            for ($i = mt_rand(0, 5); $i > 0; $i--) {
                $array[mt_rand(0, 1) ? mt_rand(-5, 5000) : text()] = value($depth - 1);
            }
            return $array;
    }
}

/** The i-th value, whoever asks. */
function made($i)
{
    mt_srand(811 + $i);
    return ['i' => $i, 'v' => value(4)];
}

/**
 * A value as PHP sees it, with what is inside of its strings; what is meant for live if asked for.
 */
function seen($value, $meant)
{
    if (is_string($value)) {
        $inner = @unserialize($value);
        if ($inner !== false || $value === 'b:0;') {
            return ['serialized' => seen($inner, $meant)];
        }
        $json = json_decode($value, true);
        if (is_array($json)) {
            return ['json' => seen($json, $meant)];
        }
        $decoy = "\x01decoy\x02";
        return $meant
            ? str_replace($decoy, DECOY, str_replace(['http://staging.skerrow.example', 'staging.skerrow.example'], ['https://skerrow.example', 'skerrow.example'], str_replace(DECOY, $decoy, $value)))
            : $value;
    }
    if (is_array($value) || is_object($value)) {
        $seen = ['type' => is_object($value) ? get_class($value) : 'array'];
        foreach ((array) $value as $key => $member) {
            $seen[] = [seen(is_int($key) ? $key : (string) $key, $meant), seen($member, $meant)];
        }
        return $seen;
    }
    // A float is compared as PHP writes it, so that -0.0 and INF count.
    return is_float($value) ? 'float ' . serialize($value) : $value;
}
