export interface Pager { // @is Pager @under Pager = Bell,Horn
    page(times: number): void; // @is page @under page = page:bell,page:horn
}

export class Bell implements Pager { // @is Bell @over Bell = Pager
    rings = 0; // @is rings @value rings
    page(times: number): void { // @is page:bell @over page:bell = page
        this.rings += times; // @ref rings readwrite @value rings
    }
    heard(): number { return this.rings; } // @is heard @ref rings read @value rings @called heard = alert
}

export class Horn extends Bell { // @ref Bell type @is Horn @over Horn = Bell,Pager
    page(times: number): void { super.page(times); } // @is page:horn @over page:horn = page:bell,page
}

export function alert(pager: Pager, level: number): number { // @is alert @is pager @is level @calls alert = page,quiet,heard,Horn
    if (level > quiet()) { // @value level
        pager.page(level); // @type pager = Pager @ref pager read @value level
    }
    return new Horn().heard();
}

function quiet(): number { return 1; } // @is quiet @called quiet = alert

function forgotten() {} // @unused
