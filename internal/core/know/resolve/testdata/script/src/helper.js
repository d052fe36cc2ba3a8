export default function assist(n) {  //@def assist @def n:assist
  var total = 0;  //@def total
  if (n) { var total2 = total; }  //@use n:assist @def total2 @use total
  return total2;  //@use total2
}
export function twice(n) { return n + later(n); }  //@def twice @use later
function later(n) { return n; }  //@def later

class Old {  //@def Old
  constructor() { this.count = 0; }  //@def count
  more() { this.count++; return this; }  //@use count @def more
}
new Old().more().count;  //@use Old @use more
