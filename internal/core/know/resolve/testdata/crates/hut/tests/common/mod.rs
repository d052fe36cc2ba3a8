pub fn begin() {} // @def begin
