pub mod report; // @use report:pkg
pub mod station;
#[path = "odd_name.rs"]
mod even;
pub use station::gauge::Gauge; // @use gauge:pkg @use Gauge
pub use self::report::*;
use weathervane::Wind; // @outside Wind
pub const LIMIT: u32 = 9; // @def LIMIT

#[macro_export]
macro_rules! shout { ($e:expr) => { $e } } // @def shout

cfg_if::cfg_if! {
    if #[cfg(feature = "snow")] {
        pub fn depth() -> u32 { 1 } // @def depth
    } else if #[cfg(test)] {
        pub fn wet() -> bool { true } // @def wet
    }
}

thread_local! { static NOW: u32 = 4; } // @def NOW

pub fn odd(w: Wind) -> u32 { even::deep() + depth() + shout!(LIMIT) + NOW } // @use deep @use depth @use LIMIT @use NOW @use shout @def odd

pub mod inner { // @def inner
    use super::LIMIT; // @use LIMIT
    pub fn call() -> u32 { LIMIT + self::near() + super::odd() } // @use LIMIT @use near @use odd @def call
    fn near() -> u32 { super::inner::far::away() } // @def near @use inner @use away
    pub mod far {
        use super::*;
        pub fn away() -> u32 { near() } // @def away @use near
    }
}
