use hut_radio::{inner, Report, Gauge}; // @use inner @use Report @use Gauge
fn main() {
    let r = Report::Lost; // @use Report @use Lost
    let g = Gauge { value: inner::call() }; // @use Gauge @use value @use call
    hut_radio::shout!(g.value); // @use shout
    println!("{}", r); // @outside println
    weathervane::turn(); // @outside turn
}
