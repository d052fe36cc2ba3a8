exports.strike = function strike(bell) { return exports.settings; }; //@def strike //@use settings
exports.settings = { loud: 0 }; //@def settings
