/* Names for the vectors' instructions, and what is done across a vector. */
#include <wasm_simd128.h>

typedef v128_t vec;
#define EXPORT(name) __attribute__((export_name(name)))
/* What several functions call is not copied into each: pages load the kernel. */
#define APART_FROM_CALLERS __attribute__((noinline))
#define LOAD(p) wasm_v128_load(p)
#define SPLAT(p) wasm_v128_load32_splat(p)
#define STORE(p, x) wasm_v128_store(p, x)
#define ADD wasm_f32x4_add
#define SUB wasm_f32x4_sub
#define MUL wasm_f32x4_mul

/* Real parts of four and imaginary parts of four become eight interleaved values. */
static inline void store_interleaved(float *out, vec r, vec i) {
  STORE(out, wasm_i32x4_shuffle(r, i, 0, 4, 1, 5));
  STORE(out + 4, wasm_i32x4_shuffle(r, i, 2, 6, 3, 7));
}

static inline float sum_across(vec v) {
  vec two = ADD(v, wasm_i64x2_shuffle(v, v, 1, 1));
  return wasm_f32x4_extract_lane(two, 0) + wasm_f32x4_extract_lane(two, 1);
}

static inline int across(vec v) {
  return wasm_i32x4_extract_lane(v, 0) + wasm_i32x4_extract_lane(v, 1) + wasm_i32x4_extract_lane(v, 2) + wasm_i32x4_extract_lane(v, 3);
}

/* Powers of two pairs, each twice. */
static inline vec powers_twice(vec v) {
  vec p = MUL(v, v);
  return ADD(p, wasm_i32x4_shuffle(p, p, 1, 0, 3, 2));
}
