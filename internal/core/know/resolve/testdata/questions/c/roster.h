struct bell;
int alert(struct bell *b, int level);
