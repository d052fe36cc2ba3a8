pub struct Letter { pub text: String } // @def Letter @def text
impl Letter {
    pub fn plain(s: &str) -> Letter { Letter { text: s.to_string() } } // @def plain @use Letter @use text
}
