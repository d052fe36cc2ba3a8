struct Ridge { angle: i32 } // @def angle
impl Ridge {
    fn steep(&self) -> bool { self.angle > 30 && self.dry() } // @def steep @use angle @use dry
    fn dry(&self) -> bool { true } // @def dry
    fn new() -> Self { Ridge { angle: 1 } } // @def new @use angle
}
fn walk() { let s = Ridge::new(); s.steep(); } // @use new @use steep
