use super::station::gauge::{Gauge, Read}; // @use Gauge @use Read
use post::Letter as Envelope; // @use Letter
pub enum Report { Sent(u32), Lost } // @def Report @def Sent @def Lost
impl Report {
    pub fn seal(self, e: Envelope) -> Report { // @def seal @use Envelope:Letter
        use Report::Lost; // @use Report @use Lost
        if e.text.is_empty() { Lost } else { self } // @use text @use Lost
    }
}
pub trait Both { fn both(&self) -> u32 { 2 } } // @def both @def Both
impl Both for Gauge {} // @use Both @use Gauge
