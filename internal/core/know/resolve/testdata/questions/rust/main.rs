trait Pager { // @is Pager @under Pager = Bell
    fn page(&mut self, times: i32); // @is page @under page = page:bell
}

struct Bell { rings: i32 } // @is Bell @is rings @over Bell = Pager

impl Pager for Bell {
    fn page(&mut self, times: i32) { // @is page:bell @over page:bell = page
        self.rings += times; // @ref rings readwrite @value rings
    }
}

impl Bell {
    fn heard(&self) -> i32 { self.rings } // @is heard @ref rings read @value rings @called heard = alert
}

fn alert(bell: &mut Bell, level: i32) -> i32 { // @is alert @is bell @is level @calls alert = quiet,page:bell,heard
    if level > quiet() { // @value level
        bell.page(level); // @type bell = Bell @ref bell read @value level
    }
    bell.heard() // @ref bell read
}

fn quiet() -> i32 { 1 } // @is quiet @called quiet = alert

fn forgotten() {} // @unused

fn main() {
    let mut bell = Bell { rings: 0 }; // @ref rings write @value rings
    alert(&mut bell, 3); // @value level
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn test_alert() { // @is test_alert
        let mut bell = Bell { rings: 0 }; // @ref rings write @value rings
        alert(&mut bell, 1); // @value level @tests alert = test_alert
    }
}
