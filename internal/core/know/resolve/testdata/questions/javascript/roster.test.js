import { alert } from './roster'; // @ref alert import

export function testAlert() { // @is testAlert
    alert(1); // @ref alert call @value level @tests alert = testAlert
}
