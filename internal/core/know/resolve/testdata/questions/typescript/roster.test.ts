import { alert, Bell } from './roster'; // @ref alert import @ref Bell import

export function testAlert() { // @is testAlert
    alert(new Bell(), 1); // @ref alert call @ref Bell call @value level @tests alert = testAlert
}
