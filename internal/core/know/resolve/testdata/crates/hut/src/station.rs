pub mod gauge;
use self::gauge::{self, Gauge as Meter, Read}; // @use Gauge @use Read
use crate::report::Report; // @use Report
use post::Letter; // @use Letter

pub struct Station { pub meter: Meter } // @def Station @def meter @use Meter:Gauge

impl Station {
    pub fn tell(&self) -> Report { // @use Report @def tell
        let level = self.meter.level(); // @use meter @use level#2
        let twice = gauge::double(self.meter.value); // @use double @use value
        Report::Sent(level + twice).seal(Letter::plain("x")) // @use Sent @use seal @use plain
    }
    pub fn words(&self) -> u32 { self.meter.loud() + self.meter.both() } // @use loud @use both
}
