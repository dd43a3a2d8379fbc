/*
 * The signal kernel: what measuring and the model spend their time on, in single precision with 128-bit vectors.
 * Built by `npm run kernel` with Debian's clang; the bytes in kernelBytes.ts are what it gives.
 */
#include "c/vectors.h"
#include "c/codes.h"
#include "c/tables.h"
#include "c/transforms.h"
#include "c/sums.h"
#include "c/filters.h"
#include "c/angles.h"
#include "c/voice.h"
#include "c/model.h"

/* First address that the host may use. */
extern unsigned char __heap_base;
EXPORT("heapBase") unsigned heap_base(void) { return (unsigned)&__heap_base; }
