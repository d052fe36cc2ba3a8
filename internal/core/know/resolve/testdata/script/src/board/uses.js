const { make } = require('./old');
const old = require('./old');
make().ring(2); //@use ring
new old.Bell('c').struck; //@use struck
