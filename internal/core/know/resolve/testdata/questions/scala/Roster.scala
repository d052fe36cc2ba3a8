package tarn

trait Pager { // @is Pager @under Pager = Bell,Horn
  def page(times: Int): Unit // @is page @under page = page:bell,page:horn
}

class Bell extends Pager { // @is Bell @over Bell = Pager
  var rings = 0 // @is rings @value rings
  def page(times: Int): Unit = { // @is page:bell @over page:bell = page
    this.rings += times // @ref rings readwrite @value rings
  }
  def heard(): Int = rings // @is heard @ref rings read @value rings @called heard = alert
}

class Horn extends Bell { // @is Horn @over Horn = Bell,Pager
  override def page(times: Int): Unit = super.page(times) // @is page:horn @over page:horn = page:bell,page
}

object Roster {
  def alert(pager: Pager, level: Int): Int = { // @is alert @is pager @is level @calls alert = quiet,page,heard,Horn
    if (level > quiet()) { // @value level
      pager.page(level) // @type pager = Pager @ref pager read @value level
    }
    new Horn().heard()
  }
  private def quiet() = 1 // @is quiet @called quiet = alert
  private def forgotten() = {} // @unused
  def main(args: Array[String]): Unit = {
    alert(new Bell(), 3) // @value level
  }
}
