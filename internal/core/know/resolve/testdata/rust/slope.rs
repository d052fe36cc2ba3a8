pub struct Layer { pub depth: f64 } // @def Layer @def depth
impl Layer {
    fn weigh(&self, wind: f64) -> f64 { wind * 2.0 } // @def weigh @def wind @use wind#2
}
const MAX: usize = 3; // @def MAX
fn total(layers: Vec<Layer>, first: Layer) -> f64 { // @def total @use Layer @use Layer#2 @def first
    let sum = first.depth; // @use first @use depth
    let sum = sum + MAX as f64; // @use MAX
    match layers.len() { n if n > MAX => sum, _ => total(layers, first) } // @use total @use MAX
}
