#ifndef RADIO_H
#define RADIO_H
#ifdef RADIO_DLL
#define RADIO_API __declspec(dllexport)
#else
#define RADIO_API extern //@def RADIO_API
#endif
typedef struct radio radio; //@def radio:name#2
typedef struct packet {
    union { struct { int low, high; } half; int whole; } u; //@def half //@def low //@def whole //@def u
    struct packet *next; //@def next:packet
} packet; //@def packet
struct mode { int quiet; }; //@def mode //@def quiet
RADIO_API int radio_send(radio *r, packet *p); //@use RADIO_API //@use radio:name
extern int radio_errors;
#endif
