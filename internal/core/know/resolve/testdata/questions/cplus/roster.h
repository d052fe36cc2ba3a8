class Pager;
int alert(Pager *pager, int level);
