/* Angles of FM. */

/*
 * Arc tangent of y / x in its quadrant, four at once; 0 for 0 / 0. Polynomial of Abramowitz and Stegun 4.4.49, 2e-8
 * of itself, on the smaller over the larger.
 */
static inline vec atan2_of(vec y, vec x) {
  static const float a[] = {0.0028662257f, -0.0161657367f, 0.0429096138f, -0.0752896400f, 0.1065626393f,
                            -0.1420889944f, 0.1999355085f, -0.3333314528f, 1.0f};
  const vec zero = wasm_f32x4_splat(0), least = wasm_f32x4_splat(1e-37f);
  vec ay = wasm_f32x4_abs(y), ax = wasm_f32x4_abs(x);
  vec z = wasm_f32x4_div(wasm_f32x4_pmin(ax, ay), wasm_f32x4_pmax(least, wasm_f32x4_pmax(ax, ay))), s = MUL(z, z);
  vec p = wasm_f32x4_splat(a[0]);
  for (int k = 1; k < 9; k++) p = ADD(MUL(p, s), wasm_f32x4_splat(a[k]));
  p = MUL(p, z);
  p = wasm_v128_bitselect(SUB(wasm_f32x4_splat(1.57079632679f), p), p, wasm_f32x4_gt(ay, ax));
  p = wasm_v128_bitselect(SUB(wasm_f32x4_splat(3.14159265359f), p), p, wasm_f32x4_lt(x, zero));
  return wasm_v128_bitselect(wasm_f32x4_neg(p), p, wasm_f32x4_lt(y, zero));
}

/*
 * Angle that each of n interleaved pairs stands ahead of the one before it, which for the first lies at x - 2. May write
 * three values more.
 */
EXPORT("turnsOf") void turns_of(const float *x, int n, float *out) {
  for (int k = 0; k < n; k += 4) {
    vec a = LOAD(x + 2 * k), b = LOAD(x + 2 * k + 4), c = LOAD(x + 2 * k - 2), d = LOAD(x + 2 * k + 2);
    vec i = wasm_i32x4_shuffle(a, b, 0, 2, 4, 6), q = wasm_i32x4_shuffle(a, b, 1, 3, 5, 7);
    vec li = wasm_i32x4_shuffle(c, d, 0, 2, 4, 6), lq = wasm_i32x4_shuffle(c, d, 1, 3, 5, 7);
    STORE(out + k, atan2_of(SUB(MUL(q, li), MUL(i, lq)), ADD(MUL(i, li), MUL(q, lq))));
  }
}
