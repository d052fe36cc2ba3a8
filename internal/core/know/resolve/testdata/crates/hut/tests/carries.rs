mod common;
use hut_radio::station::Station; // @use Station
#[test]
fn carries() { common::begin(); let s: Station = todo!(); s.tell(); } // @use begin @use tell
