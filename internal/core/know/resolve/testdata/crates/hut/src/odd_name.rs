pub fn deep() -> u32 { crate::LIMIT } // @def deep @use LIMIT
