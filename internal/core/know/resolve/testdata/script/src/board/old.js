const tools = require('./tools');
const { strike } = require('./tools'); //@use strike

function Bell(name) { //@def Bell
  this.name = name; //@def name:of
  this.struck = 0; //@def struck
}
Bell.prototype.ring = function (times) { //@def ring
  this.struck += times; //@use struck
  return this.name; //@use name:of
};
Bell.all = []; //@def all

const bell = new Bell('a'); //@use Bell
bell.ring(1); //@use ring
Bell.all.push(bell); //@use all
tools.strike(bell); //@use strike
tools.settings.loud = 1; //@use settings
strike(bell); //@use strike
module.exports = { Bell, make() { return new Bell('b'); } };
