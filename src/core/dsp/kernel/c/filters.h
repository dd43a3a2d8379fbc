/* Filters over streams, changes of rate and of layout. */

/* Two rows of doubles as interleaved pairs; q may be 0 for none. n even. */
EXPORT("pairsFromDoubles") void pairs_from_doubles(const double *i, const double *q, float *pairs, int n) {
  vec none = wasm_f32x4_splat(0);
  for (int k = 0; k < n; k += 2) {
    vec a = wasm_f32x4_demote_f64x2_zero(LOAD(i + k));
    vec b = q ? wasm_f32x4_demote_f64x2_zero(LOAD(q + k)) : none;
    STORE(pairs + 2 * k, wasm_i32x4_shuffle(a, b, 0, 4, 1, 5));
  }
}

/* The other way round. */
EXPORT("doublesFromPairs") void doubles_from_pairs(const float *pairs, double *i, double *q, int n) {
  for (int k = 0; k < n; k += 2) {
    vec p = LOAD(pairs + 2 * k);
    STORE(i + k, wasm_f64x2_promote_low_f32x4(wasm_i32x4_shuffle(p, p, 0, 2, 0, 2)));
    STORE(q + k, wasm_f64x2_promote_low_f32x4(wasm_i32x4_shuffle(p, p, 1, 3, 1, 3)));
  }
}

/* The pair that comes of what real parts and imaginary parts of taps made of two pairs; twice. */
static inline vec product_of(vec re, vec im) {
  re = ADD(re, wasm_i64x2_shuffle(re, re, 1, 0));
  im = ADD(im, wasm_i64x2_shuffle(im, im, 1, 0));
  return ADD(re, wasm_i32x4_shuffle(wasm_f32x4_neg(im), im, 1, 4, 1, 4));
}

/*
 * Filters interleaved pairs with complex taps, one output every `step` pairs: out[n] = sum of tap[k] x[n step + k].
 * re and im: the taps' parts, each value twice; taps is even. x holds (count - 1) step + taps pairs.
 */
EXPORT("decimate") void decimate(const float *x, const float *re, const float *im, int taps, int step, int count, float *out) {
  int n = 0;
  // Two at once: the taps are read once for both.
  for (; n + 2 <= count; n += 2, x += 4 * step, out += 4) {
    const float *y = x + 2 * step;
    vec a0 = wasm_f32x4_splat(0), b0 = a0, a1 = a0, b1 = a0, c0 = a0, d0 = a0, c1 = a0, d1 = a0;
    int k = 0;
    for (; k + 8 <= 2 * taps; k += 8) {
      vec r = LOAD(re + k), i = LOAD(im + k), v = LOAD(x + k), w = LOAD(y + k);
      a0 = ADD(a0, MUL(v, r));
      b0 = ADD(b0, MUL(v, i));
      c0 = ADD(c0, MUL(w, r));
      d0 = ADD(d0, MUL(w, i));
      r = LOAD(re + k + 4), i = LOAD(im + k + 4), v = LOAD(x + k + 4), w = LOAD(y + k + 4);
      a1 = ADD(a1, MUL(v, r));
      b1 = ADD(b1, MUL(v, i));
      c1 = ADD(c1, MUL(w, r));
      d1 = ADD(d1, MUL(w, i));
    }
    for (; k < 2 * taps; k += 4) {
      vec r = LOAD(re + k), i = LOAD(im + k), v = LOAD(x + k), w = LOAD(y + k);
      a0 = ADD(a0, MUL(v, r));
      b0 = ADD(b0, MUL(v, i));
      c0 = ADD(c0, MUL(w, r));
      d0 = ADD(d0, MUL(w, i));
    }
    STORE(out, wasm_i64x2_shuffle(product_of(ADD(a0, a1), ADD(b0, b1)), product_of(ADD(c0, c1), ADD(d0, d1)), 0, 2));
  }
  if (n == count) return;
  vec a0 = wasm_f32x4_splat(0), b0 = a0, a1 = a0, b1 = a0;
  int k = 0;
  for (; k + 8 <= 2 * taps; k += 8) {
    vec v = LOAD(x + k), w = LOAD(x + k + 4);
    a0 = ADD(a0, MUL(v, LOAD(re + k)));
    b0 = ADD(b0, MUL(v, LOAD(im + k)));
    a1 = ADD(a1, MUL(w, LOAD(re + k + 4)));
    b1 = ADD(b1, MUL(w, LOAD(im + k + 4)));
  }
  for (; k < 2 * taps; k += 4) {
    vec v = LOAD(x + k);
    a0 = ADD(a0, MUL(v, LOAD(re + k)));
    b0 = ADD(b0, MUL(v, LOAD(im + k)));
  }
  wasm_v128_store64_lane(out, product_of(ADD(a0, a1), ADD(b0, b1)), 0);
}

/*
 * Turns n interleaved pairs (even) by a table that repeats every `period` pairs (even), from `phase` (even) on.
 * c: the cosines, each twice; s: the sines as -s, s for each pair.
 */
EXPORT("turn") void turn(const float *x, int n, const float *c, const float *s, int period, int phase, float *out) {
  for (int k = 0; k < n;) {
    int run = period - phase < n - k ? period - phase : n - k;
    for (int m = 0; m < 2 * run; m += 4) {
      vec v = LOAD(x + 2 * k + m);
      STORE(out + 2 * k + m, ADD(MUL(v, LOAD(c + 2 * phase + m)), MUL(wasm_i32x4_shuffle(v, v, 1, 0, 3, 2), LOAD(s + 2 * phase + m))));
    }
    k += run;
    phase = phase + run == period ? 0 : phase + run;
  }
}

/* Values of four bytes by turns into two rows; n is even. */
static inline void every_other(const void *values, int n, void *even, void *odd) {
  const int *x = values;
  int *e = even, *o = odd;
  int k = 0;
  for (; k + 8 <= n; k += 8) {
    vec a = LOAD(x + k), b = LOAD(x + k + 4);
    STORE(e + k / 2, wasm_i32x4_shuffle(a, b, 0, 2, 4, 6));
    STORE(o + k / 2, wasm_i32x4_shuffle(a, b, 1, 3, 5, 7));
  }
  for (; k < n; k += 2) {
    e[k / 2] = x[k];
    o[k / 2] = x[k + 1];
  }
}

/* What `held` pairs of either row and `made` new ones give; may write one pair more. */
static inline void halve_pairs(const float *even, const float *odd, int held, int made, const float *taps, int reach, float *out) {
  int count = held + made - 2 * reach + 1;
  vec middle = LOAD(taps);
  int m = 0;
  // Eight pairs at once: each tap is read once for them.
  for (; m + 8 <= count; m += 8) {
    const float *here = even + 2 * (m + reach), *up = odd + 2 * (m + reach), *down = up - 2, *tap = taps + 4;
    vec a = MUL(middle, LOAD(here)), b = MUL(middle, LOAD(here + 4)), c = MUL(middle, LOAD(here + 8)), d = MUL(middle, LOAD(here + 12));
    for (int j = 0; j < reach; j++, tap += 4, up += 2, down -= 2) {
      vec t = LOAD(tap);
      a = ADD(a, MUL(t, ADD(LOAD(down), LOAD(up))));
      b = ADD(b, MUL(t, ADD(LOAD(down + 4), LOAD(up + 4))));
      c = ADD(c, MUL(t, ADD(LOAD(down + 8), LOAD(up + 8))));
      d = ADD(d, MUL(t, ADD(LOAD(down + 12), LOAD(up + 12))));
    }
    STORE(out + 2 * m, a);
    STORE(out + 2 * m + 4, b);
    STORE(out + 2 * m + 8, c);
    STORE(out + 2 * m + 12, d);
  }
  for (; m < count; m += 2) {
    const float *c = odd + 2 * (m + reach);
    vec a = MUL(middle, LOAD(even + 2 * (m + reach)));
    for (int j = 0; j < reach; j++) a = ADD(a, MUL(LOAD(taps + 4 * (j + 1)), ADD(LOAD(c - 2 * (j + 1)), LOAD(c + 2 * j))));
    STORE(out + 2 * m, a);
  }
}

/*
 * Half the rate through a half-band filter: out[c] = middle even[c] + sum of tap[j] (odd[c - 1 - j] + odd[c + j]).
 * even and odd hold `held` pairs each; n (even) new pairs are put behind them. taps: `reach` of them, each four times,
 * after the middle one. Gives held + n / 2 - 2 reach + 1 pairs from c = reach on; may write one pair more.
 */
EXPORT("halve") void halve(const float *x, int n, float *even, float *odd, int held, const float *taps, int reach, float *out) {
  float *e = even + 2 * held, *o = odd + 2 * held;
  int k = 0;
  for (; k + 4 <= n; k += 4) {
    vec a = LOAD(x + 2 * k), b = LOAD(x + 2 * k + 4);
    STORE(e + k, wasm_i64x2_shuffle(a, b, 0, 2));
    STORE(o + k, wasm_i64x2_shuffle(a, b, 1, 3));
  }
  for (; k < n; k += 2) {
    wasm_v128_store64_lane(e + k, LOAD(x + 2 * k), 0);
    wasm_v128_store64_lane(o + k, LOAD(x + 2 * k), 1);
  }
  halve_pairs(even, odd, held, n / 2, taps, reach, out);
}

#define DOT wasm_i32x4_dot_i16x8
#define SUM wasm_i32x4_add

/*
 * `halve` for pairs of 16-bit codes, in whole numbers, with taps of 16 bits that are turned to where the band stands. taps: the
 * middle one, then for each side by side the one above and the one below; of each what gives the real part (factors of I and of
 * Q), then what gives the imaginary one. What comes out is turned by c and s, which have its size in them and repeat every
 * `period` pairs (eight more follow), from `phase` on. May write seven pairs more. n is even.
 */
EXPORT("halveCodePairs") void halve_code_pairs(const int *x, int n, int *even, int *odd, int held, const int *taps, int reach, const float *c,
                                               const float *s, int period, int phase, float *out) {
  every_other(x, n, even + held, odd + held);
  int count = held + n / 2 - 2 * reach + 1;
  for (int m = 0; m < count; m += 8, out += 16) {
    const int *up = odd + m + reach, *down = up - 1, *tap = taps + 2;
    vec v = LOAD(even + m + reach), w = LOAD(even + m + reach + 4), re = SPLAT(taps), im = SPLAT(taps + 1);
    vec a = DOT(v, re), b = DOT(w, re), p = DOT(v, im), q = DOT(w, im);
    for (int j = 0; j < reach; j++, up++, down--, tap += 4) {
      v = LOAD(up), w = LOAD(up + 4), re = SPLAT(tap), im = SPLAT(tap + 1);
      a = SUM(a, DOT(v, re)), b = SUM(b, DOT(w, re)), p = SUM(p, DOT(v, im)), q = SUM(q, DOT(w, im));
      v = LOAD(down), w = LOAD(down + 4), re = SPLAT(tap + 2), im = SPLAT(tap + 3);
      a = SUM(a, DOT(v, re)), b = SUM(b, DOT(w, re)), p = SUM(p, DOT(v, im)), q = SUM(q, DOT(w, im));
    }
    vec i = wasm_f32x4_convert_i32x4(a), j = wasm_f32x4_convert_i32x4(p), cosines = LOAD(c + phase), sines = LOAD(s + phase);
    store_interleaved(out, SUB(MUL(i, cosines), MUL(j, sines)), ADD(MUL(i, sines), MUL(j, cosines)));
    i = wasm_f32x4_convert_i32x4(b), j = wasm_f32x4_convert_i32x4(q), cosines = LOAD(c + phase + 4), sines = LOAD(s + phase + 4);
    store_interleaved(out + 8, SUB(MUL(i, cosines), MUL(j, sines)), ADD(MUL(i, sines), MUL(j, cosines)));
    phase = phase + 8 < period ? phase + 8 : phase + 8 - period;
  }
}

/* Moves bytes; the two stretches may overlap. */
EXPORT("move") void move(void *to, const void *from, unsigned bytes) { __builtin_memmove(to, from, bytes); }

/*
 * out[m] = middle here[m] + sum of tap[j] (down[m - j] + up[m + j]), `reach` taps, each four times, after the middle one; may write
 * three samples more.
 */
static inline void both_sides(const float *here, const float *down, const float *up, int count, const float *taps, int reach, float *out) {
  vec middle = LOAD(taps);
  int m = 0;
  // Sixteen samples at once: each tap is read once for them.
  for (; m + 16 <= count; m += 16) {
    const float *h = here + m, *u = up + m, *d = down + m, *tap = taps + 4;
    vec a = MUL(middle, LOAD(h)), b = MUL(middle, LOAD(h + 4)), c = MUL(middle, LOAD(h + 8)), e = MUL(middle, LOAD(h + 12));
    for (int j = 0; j < reach; j++, tap += 4, u++, d--) {
      vec t = LOAD(tap);
      a = ADD(a, MUL(t, ADD(LOAD(d), LOAD(u))));
      b = ADD(b, MUL(t, ADD(LOAD(d + 4), LOAD(u + 4))));
      c = ADD(c, MUL(t, ADD(LOAD(d + 8), LOAD(u + 8))));
      e = ADD(e, MUL(t, ADD(LOAD(d + 12), LOAD(u + 12))));
    }
    STORE(out + m, a);
    STORE(out + m + 4, b);
    STORE(out + m + 8, c);
    STORE(out + m + 12, e);
  }
  for (; m < count; m += 4) {
    const float *u = up + m, *d = down + m, *tap = taps + 4;
    vec a = MUL(middle, LOAD(here + m));
    for (int j = 0; j < reach; j++, tap += 4, u++, d--) a = ADD(a, MUL(LOAD(tap), ADD(LOAD(d), LOAD(u))));
    STORE(out + m, a);
  }
}

/* `halve` for real samples: even and odd hold `held` samples each, n is even; may write three samples more. */
EXPORT("halveReal") void halve_real(const float *x, int n, float *even, float *odd, int held, const float *taps, int reach, float *out) {
  every_other(x, n, even + held, odd + held);
  both_sides(even + reach, odd + reach - 1, odd + reach, held + n / 2 - 2 * reach + 1, taps, reach, out);
}

/* A filter with the same taps on either side of the middle one, as above, over real samples: n - 2 reach come out; may write three more. */
EXPORT("evenHanded") void even_handed(const float *x, int n, const float *taps, int reach, float *out) {
  both_sides(x + reach, x + reach - 1, x + reach + 1, n - 2 * reach, taps, reach, out);
}

/* Eight samples from sums of products of codes: those in even places, and those in odd ones; middle: the codes in the middle. */
static inline void store_sums(float *out, vec a, vec b, vec here, float middle, float size) {
  vec m = wasm_f32x4_splat(middle), s = wasm_f32x4_splat(size);
  a = ADD(MUL(s, wasm_f32x4_convert_i32x4(a)), MUL(m, even_four(here)));
  b = ADD(MUL(s, wasm_f32x4_convert_i32x4(b)), MUL(m, odd_four(here)));
  store_interleaved(out, a, b);
}

/*
 * `halveReal` for 16-bit codes, in whole numbers but for the middle tap. taps: 2 reach of 16 bits, for odd[m] to odd[m + 2 reach - 1],
 * in twos; a product counts `size`. May write seven samples more.
 */
EXPORT("halveCodes") void halve_codes(const short *x, int n, short *even, short *odd, int held, const int *taps, int reach, float middle,
                                      float size, float *out) {
  short *e = even + held, *o = odd + held;
  int k = 0;
  for (; k + 16 <= n; k += 16) {
    vec a = LOAD(x + k), b = LOAD(x + k + 8);
    STORE(e + k / 2, wasm_i16x8_shuffle(a, b, 0, 2, 4, 6, 8, 10, 12, 14));
    STORE(o + k / 2, wasm_i16x8_shuffle(a, b, 1, 3, 5, 7, 9, 11, 13, 15));
  }
  for (; k < n; k += 2) {
    e[k / 2] = x[k];
    o[k / 2] = x[k + 1];
  }
  int count = held + n / 2 - 2 * reach + 1, m = 0;
  // Sums for even places begin at an even place, those for odd ones a code later.
  for (; m + 16 <= count; m += 16) {
    const short *from = odd + m;
    vec a = wasm_i32x4_splat(0), b = a, c = a, d = a;
    for (int j = 0; j < reach; j++, from += 2) {
      vec t = SPLAT(taps + j);
      a = SUM(a, DOT(LOAD(from), t));
      b = SUM(b, DOT(LOAD(from + 1), t));
      c = SUM(c, DOT(LOAD(from + 8), t));
      d = SUM(d, DOT(LOAD(from + 9), t));
    }
    store_sums(out + m, a, b, LOAD(even + m + reach), middle, size);
    store_sums(out + m + 8, c, d, LOAD(even + m + reach + 8), middle, size);
  }
  for (; m < count; m += 8) {
    const short *from = odd + m;
    vec a = wasm_i32x4_splat(0), b = a;
    for (int j = 0; j < reach; j++, from += 2) {
      vec t = SPLAT(taps + j);
      a = SUM(a, DOT(LOAD(from), t));
      b = SUM(b, DOT(LOAD(from + 1), t));
    }
    store_sums(out + m, a, b, LOAD(even + m + reach), middle, size);
  }
}

/*
 * Energy behind two second-order sections, four stretches at once: stretch l begins at x + l * stride, settles over
 * `settle` samples, then gives the sums of squares of `count` steps of `step` samples at out[l * count ...], and those of the
 * samples themselves at plain[l * count ...]. sections: b0 b1 b2 a1 a2 of each.
 */
EXPORT("weightedEnergies") void weighted_energies(const float *x, int stride, int settle, int step, int count, const float *sections, float *out,
                                                     float *plain) {
  const vec b0 = SPLAT(sections), b1 = SPLAT(sections + 1), b2 = SPLAT(sections + 2), a1 = SPLAT(sections + 3), a2 = SPLAT(sections + 4);
  const vec d0 = SPLAT(sections + 5), d1 = SPLAT(sections + 6), d2 = SPLAT(sections + 7), c1 = SPLAT(sections + 8), c2 = SPLAT(sections + 9);
  const float *x0 = x, *x1 = x + stride, *x2 = x + 2 * stride, *x3 = x + 3 * stride;
  // What waits for the sample before is one product and one difference.
  vec v1 = wasm_f32x4_splat(0), v2 = v1, y1 = v1, y2 = v1, z1 = v1, z2 = v1;
#define SECTIONS(v)                                                                                    \
  vec y = SUB(ADD(ADD(MUL(b0, v), MUL(b1, v1)), SUB(MUL(b2, v2), MUL(a2, y2))), MUL(a1, y1));          \
  vec z = SUB(ADD(MUL(d0, y), ADD(MUL(d1, y1), SUB(MUL(d2, y2), MUL(c2, z2)))), MUL(c1, z1));          \
  v2 = v1;                                                                                             \
  v1 = v;                                                                                              \
  y2 = y1;                                                                                             \
  y1 = y;                                                                                              \
  z2 = z1;                                                                                             \
  z1 = z;
  int n = 0;
  for (int k = -1; k < count; k++) {
    int end = settle + (k + 1) * step;
    vec sum = wasm_f32x4_splat(0), power = sum;
    for (; n + 4 <= end; n += 4) {
      vec a = LOAD(x0 + n), b = LOAD(x1 + n), c = LOAD(x2 + n), d = LOAD(x3 + n);
      vec ab0 = wasm_i32x4_shuffle(a, b, 0, 4, 1, 5), ab1 = wasm_i32x4_shuffle(a, b, 2, 6, 3, 7);
      vec cd0 = wasm_i32x4_shuffle(c, d, 0, 4, 1, 5), cd1 = wasm_i32x4_shuffle(c, d, 2, 6, 3, 7);
      vec rows[4] = {wasm_i64x2_shuffle(ab0, cd0, 0, 2), wasm_i64x2_shuffle(ab0, cd0, 1, 3), wasm_i64x2_shuffle(ab1, cd1, 0, 2),
                     wasm_i64x2_shuffle(ab1, cd1, 1, 3)};
#pragma unroll
      for (int i = 0; i < 4; i++) {
        SECTIONS(rows[i])
        sum = ADD(sum, MUL(z, z));
        power = ADD(power, MUL(rows[i], rows[i]));
      }
    }
    for (; n < end; n++) {
      vec v = wasm_f32x4_make(x0[n], x1[n], x2[n], x3[n]);
      SECTIONS(v)
      sum = ADD(sum, MUL(z, z));
      power = ADD(power, MUL(v, v));
    }
    if (k < 0) continue;
    float sums[4], powers[4];
    STORE(sums, sum);
    STORE(powers, power);
    for (int l = 0; l < 4; l++) {
      out[l * count + k] = sums[l];
      plain[l * count + k] = powers[l];
    }
  }
}

/*
 * Three second-order sections in double precision, in place allowed. sections: b0 b1 b2 a1 a2 of each; state: the last two
 * samples that went in and that came out of each. What waits for the sample before is one product and one difference.
 */
EXPORT("threeSections") void three_sections(const float *x, float *out, int n, const double *c, double *state) {
  // The first two run side by side, the second one sample behind; in: what goes into each, in1 and in2 the ones before.
#define PAIR(k) wasm_f64x2_make(c[k], c[k + 5])
  const vec b0 = PAIR(0), b1 = PAIR(1), b2 = PAIR(2), a1 = PAIR(3), a2 = PAIR(4);
  double v1 = state[0], v2 = state[1], y1 = state[2], y2 = state[3], z1 = state[4], z2 = state[5], w1 = state[6], w2 = state[7];
  if (n <= 0) return;
  double first = (c[0] * x[0] + c[1] * v1 + (c[2] * v2 - c[4] * y2)) - c[3] * y1;
  vec in1 = wasm_f64x2_make(x[0], y1), in2 = wasm_f64x2_make(v1, y2), out1 = wasm_f64x2_make(first, z1), out2 = wasm_f64x2_make(y1, z2);
  for (int k = 1; k <= n; k++) {
    // Behind the end the first section has nothing to do: what it makes of the last sample again is not used.
    vec in = wasm_f64x2_make(x[k < n ? k : n - 1], wasm_f64x2_extract_lane(out1, 0));
    vec ahead = wasm_f64x2_sub(wasm_f64x2_mul(b2, in2), wasm_f64x2_mul(a2, out2));
    ahead = wasm_f64x2_add(wasm_f64x2_mul(b0, in), wasm_f64x2_add(wasm_f64x2_mul(b1, in1), ahead));
    vec made = wasm_f64x2_sub(ahead, wasm_f64x2_mul(a1, out1));
    if (k == n) {
      state[0] = wasm_f64x2_extract_lane(in1, 0);
      state[1] = wasm_f64x2_extract_lane(in2, 0);
      state[2] = wasm_f64x2_extract_lane(out1, 0);
      state[3] = wasm_f64x2_extract_lane(out2, 0);
    }
    double z = wasm_f64x2_extract_lane(made, 1);
    double w = (c[10] * z + (c[11] * z1 + (c[12] * z2 - c[14] * w2))) - c[13] * w1;
    z2 = z1;
    z1 = z;
    w2 = w1;
    w1 = w;
    in2 = in1;
    in1 = in;
    out2 = out1;
    out1 = made;
    out[k - 1] = w;
  }
  state[4] = z1;
  state[5] = z2;
  state[6] = w1;
  state[7] = w2;
}

/* Weighted sums of n pairs: one channel out of two. */
EXPORT("mixed") void mixed(const float *pairs, int n, float first, float second, float *out) {
  vec f = wasm_f32x4_splat(first), s = wasm_f32x4_splat(second);
  int k = 0;
  for (; k + 4 <= n; k += 4) {
    vec a = LOAD(pairs + 2 * k), b = LOAD(pairs + 2 * k + 4);
    STORE(out + k, ADD(MUL(f, wasm_i32x4_shuffle(a, b, 0, 2, 4, 6)), MUL(s, wasm_i32x4_shuffle(a, b, 1, 3, 5, 7))));
  }
  for (; k < n; k++) out[k] = first * pairs[2 * k] + second * pairs[2 * k + 1];
}

/* Every second sample; in place allowed. n even. */
EXPORT("everySecond") void every_second(const float *x, int n, float *out) {
  for (int k = 0; k < n / 2; k++) out[k] = x[2 * k];
}
