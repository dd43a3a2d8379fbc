/* 16-bit codes as they are stored, and floats. */

/* Size of a 16-bit code, full scale 1. */
#define CODE (1.0f / 32768.0f)

/*
 * Eight 16-bit codes as floats: the first and the last four, or those in even and in odd places. By shifts: the compiler
 * takes the instructions for widening apart into single values.
 */
static inline vec first_four(vec v) { return wasm_f32x4_convert_i32x4(wasm_i32x4_shr(wasm_i16x8_shuffle(v, v, 0, 0, 1, 1, 2, 2, 3, 3), 16)); }
static inline vec last_four(vec v) { return wasm_f32x4_convert_i32x4(wasm_i32x4_shr(wasm_i16x8_shuffle(v, v, 4, 4, 5, 5, 6, 6, 7, 7), 16)); }
static inline vec even_four(vec v) { return wasm_f32x4_convert_i32x4(wasm_i32x4_shr(wasm_i32x4_shl(v, 16), 16)); }
static inline vec odd_four(vec v) { return wasm_f32x4_convert_i32x4(wasm_i32x4_shr(v, 16)); }

/* 16-bit codes to floats, full scale 1. */
EXPORT("fromInt16") void from_int16(const short *x, float *y, int n) {
  vec scale = wasm_f32x4_splat(CODE);
  int k = 0;
  for (; k + 8 <= n; k += 8) {
    vec c = LOAD(x + k);
    STORE(y + k, MUL(scale, first_four(c)));
    STORE(y + k + 4, MUL(scale, last_four(c)));
  }
  for (; k < n; k++) y[k] = x[k] * CODE;
}

/* Doubles, full scale 1, as 16-bit codes: rounded, limited to their range; what is no number is silence. */
EXPORT("codesOfDoubles") void codes_of_doubles(const double *x, int n, short *out) {
  const vec scale = wasm_f64x2_splat(32768), half = wasm_f64x2_splat(0.5);
  int k = 0;
  for (; k + 8 <= n; k += 8) {
    vec c[4];
    // Half is rounded up.
    for (int i = 0; i < 4; i++) c[i] = wasm_i32x4_trunc_sat_f64x2_zero(wasm_f64x2_floor(wasm_f64x2_add(half, wasm_f64x2_mul(scale, LOAD(x + k + 2 * i)))));
    vec low = wasm_i64x2_shuffle(c[0], c[1], 0, 2), high = wasm_i64x2_shuffle(c[2], c[3], 0, 2);
    STORE(out + k, wasm_i16x8_narrow_i32x4(low, high));
  }
  for (; k < n; k++) {
    double v = __builtin_floor(32768 * x[k] + 0.5);
    out[k] = v >= 32767 ? 32767 : v <= -32768 ? -32768 : v == v ? (short)v : 0;
  }
}

/* Samples times scale as whole numbers of 16 bits; n a multiple of 8. */
static inline void to_int16(const float *x, int n, float scale, short *out) {
  vec s = wasm_f32x4_splat(scale);
  for (int k = 0; k < n; k += 8) {
    vec a = wasm_i32x4_trunc_sat_f32x4(wasm_f32x4_nearest(MUL(s, LOAD(x + k))));
    vec b = wasm_i32x4_trunc_sat_f32x4(wasm_f32x4_nearest(MUL(s, LOAD(x + k + 4))));
    STORE(out + k, wasm_i16x8_narrow_i32x4(a, b));
  }
}
