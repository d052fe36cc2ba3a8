export class Bell { // @is Bell @under Bell = Horn
    constructor() {
        this.rings = 0; // @is rings @value rings
    }
    page(times) { // @is page @under page = page:horn
        this.rings += times; // @ref rings readwrite @value rings
    }
    heard() { return this.rings; } // @is heard @ref rings read @value rings @called heard = alert
}

export class Horn extends Bell { // @is Horn @over Horn = Bell
    page(times) { super.page(times); } // @is page:horn @over page:horn = page
}

export function alert(level) { // @is alert @is level @calls alert = quiet,heard,Horn @called alert = testAlert
    const horn = new Horn(); // @is horn @value horn
    return level > quiet() ? horn.heard() : level; // @type horn = Horn @ref horn read @value horn @value level
}

function quiet() { return 1; } // @is quiet @called quiet = alert

function forgotten() {} // @unused
