pub struct Gauge { pub value: u32 } // @def Gauge @def value
pub trait Read { // @def Read
    fn level(&self) -> u32; // @def level:Read
    fn loud(&self) -> u32 { self.level() * 2 } // @def loud @use level:Read
}
impl Read for Gauge { // @use Read @use Gauge
    fn level(&self) -> u32 { self.value } // @def level @use value
}
pub fn double(n: u32) -> u32 { super::super::LIMIT * n } // @def double @use LIMIT
