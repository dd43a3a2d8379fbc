/*
 * Transforms: Stockham autosort, steps of four and of eight, real and imaginary parts apart. The window is multiplied in
 * while the first step reads, the power taken while the last one writes. Twiddles come from the host, worked out in double
 * precision.
 */

typedef struct { vec r, i; } cpx;

static inline cpx times(cpx a, vec wr, vec wi) {
  return (cpx){SUB(MUL(a.r, wr), MUL(a.i, wi)), ADD(MUL(a.r, wi), MUL(a.i, wr))};
}

/* y0 .. y3 of a radix-4 step, before their twiddles. */
static inline void butterfly(cpx a, cpx b, cpx c, cpx d, cpx y[4]) {
  cpx apc = {ADD(a.r, c.r), ADD(a.i, c.i)}, amc = {SUB(a.r, c.r), SUB(a.i, c.i)};
  cpx bpd = {ADD(b.r, d.r), ADD(b.i, d.i)}, bmd = {SUB(b.r, d.r), SUB(b.i, d.i)};
  y[0] = (cpx){ADD(apc.r, bpd.r), ADD(apc.i, bpd.i)};
  y[1] = (cpx){ADD(amc.r, bmd.i), SUB(amc.i, bmd.r)};
  y[2] = (cpx){SUB(apc.r, bpd.r), SUB(apc.i, bpd.i)};
  y[3] = (cpx){SUB(amc.r, bmd.i), ADD(amc.i, bmd.r)};
}

/* Four rows of four become four columns at `out`. */
static inline void store_transposed(float *out, vec a, vec b, vec c, vec d) {
  vec ab0 = wasm_i32x4_shuffle(a, b, 0, 4, 1, 5), ab1 = wasm_i32x4_shuffle(a, b, 2, 6, 3, 7);
  vec cd0 = wasm_i32x4_shuffle(c, d, 0, 4, 1, 5), cd1 = wasm_i32x4_shuffle(c, d, 2, 6, 3, 7);
  STORE(out, wasm_i64x2_shuffle(ab0, cd0, 0, 2));
  STORE(out + 4, wasm_i64x2_shuffle(ab0, cd0, 1, 3));
  STORE(out + 8, wasm_i64x2_shuffle(ab1, cd1, 0, 2));
  STORE(out + 12, wasm_i64x2_shuffle(ab1, cd1, 1, 3));
}

/* Four complex samples from interleaved ones, each value times its window value where there is a window. */
static inline __attribute__((always_inline)) cpx read_windowed(const float *x, const float *w) {
  vec lo = LOAD(x), hi = LOAD(x + 4);
  if (w) lo = MUL(lo, LOAD(w)), hi = MUL(hi, LOAD(w + 4));
  return (cpx){wasm_i32x4_shuffle(lo, hi, 0, 2, 4, 6), wasm_i32x4_shuffle(lo, hi, 1, 3, 5, 7)};
}

/* First step: interleaved and windowed in, parts apart out. Returns the twiddles behind its own. */
static inline __attribute__((always_inline)) const float *first_step(int n, const float *x, const float *w, const float *tw, float *yr,
                                                                      float *yi) {
  int m = n / 4;
  for (int p = 0; p < m; p += 4) {
    cpx y[4];
    int a = 2 * p, b = 2 * (p + m), c = 2 * (p + 2 * m), d = 2 * (p + 3 * m);
    butterfly(read_windowed(x + a, w ? w + a : 0), read_windowed(x + b, w ? w + b : 0), read_windowed(x + c, w ? w + c : 0),
              read_windowed(x + d, w ? w + d : 0), y);
    for (int k = 1; k < 4; k++) y[k] = times(y[k], LOAD(tw + 2 * (k - 1) * m + p), LOAD(tw + (2 * k - 1) * m + p));
    store_transposed(yr + 4 * p, y[0].r, y[1].r, y[2].r, y[3].r);
    store_transposed(yi + 4 * p, y[0].i, y[1].i, y[2].i, y[3].i);
  }
  return tw + 6 * m;
}

/* The same of real samples without a window. */
static const float *first_step_of_reals(int n, const float *x, const float *tw, float *yr, float *yi) {
  int m = n / 4;
  for (int p = 0; p < m; p += 4) {
    vec a = LOAD(x + p), b = LOAD(x + p + m), c = LOAD(x + p + 2 * m), d = LOAD(x + p + 3 * m);
    vec apc = ADD(a, c), amc = SUB(a, c), bpd = ADD(b, d), bmd = SUB(b, d);
    vec real = SUB(apc, bpd), sum = ADD(apc, bpd);
    cpx y1 = times((cpx){amc, wasm_f32x4_neg(bmd)}, LOAD(tw + p), LOAD(tw + m + p));
    cpx y2 = {MUL(real, LOAD(tw + 2 * m + p)), MUL(real, LOAD(tw + 3 * m + p))};
    cpx y3 = times((cpx){amc, bmd}, LOAD(tw + 4 * m + p), LOAD(tw + 5 * m + p));
    store_transposed(yr + 4 * p, sum, y1.r, y2.r, y3.r);
    store_transposed(yi + 4 * p, wasm_f32x4_splat(0), y1.i, y2.i, y3.i);
  }
  return tw + 6 * m;
}

/* y0 .. y7 of a radix-8 step, before their twiddles: two radix-4 ones and eighths of a turn between them. */
static inline __attribute__((always_inline)) void butterfly8(const cpx x[8], cpx y[8]) {
  cpx e[4], o[4];
  butterfly(x[0], x[2], x[4], x[6], e);
  butterfly(x[1], x[3], x[5], x[7], o);
  const vec h = wasm_f32x4_splat(0.70710678118f);
  o[1] = (cpx){MUL(h, ADD(o[1].r, o[1].i)), MUL(h, SUB(o[1].i, o[1].r))};
  o[2] = (cpx){o[2].i, wasm_f32x4_neg(o[2].r)};
  o[3] = (cpx){MUL(h, SUB(o[3].i, o[3].r)), wasm_f32x4_neg(MUL(h, ADD(o[3].r, o[3].i)))};
  for (int k = 0; k < 4; k++) {
    y[k] = (cpx){ADD(e[k].r, o[k].r), ADD(e[k].i, o[k].i)};
    y[k + 4] = (cpx){SUB(e[k].r, o[k].r), SUB(e[k].i, o[k].i)};
  }
}

/* The same of four or eight. */
static inline __attribute__((always_inline)) void butterflies(int radix, const cpx *x, cpx *y) {
  if (radix == 4) butterfly(x[0], x[1], x[2], x[3], y);
  else butterfly8(x, y);
}

/* A step in the middle: `n` is what is left to do, `s` the stride. Returns the twiddles behind its own. */
static inline __attribute__((always_inline)) const float *middle_step(int radix, int n, int s, const float *tw, const float *xr,
                                                                       const float *xi, float *yr, float *yi) {
  int m = n / radix;
  for (int p = 0; p < m; p++) {
    cpx w[8];
    for (int k = 1; k < radix; k++) w[k] = (cpx){SPLAT(tw + 2 * (k - 1) * m + p), SPLAT(tw + (2 * k - 1) * m + p)};
    for (int q = 0; q < s; q += 4) {
      int from = q + s * p, to = q + s * radix * p;
      cpx x[8], y[8];
      for (int j = 0; j < radix; j++) x[j] = (cpx){LOAD(xr + from + j * s * m), LOAD(xi + from + j * s * m)};
      butterflies(radix, x, y);
      STORE(yr + to, y[0].r);
      STORE(yi + to, y[0].i);
      for (int k = 1; k < radix; k++) {
        cpx z = times(y[k], w[k].r, w[k].i);
        STORE(yr + to + k * s, z.r);
        STORE(yi + to + k * s, z.i);
      }
    }
  }
  return tw + 2 * (radix - 1) * m;
}

/* Last step, of n = 4 or 8, no twiddles. It writes powers to yr, or the values. */
static inline __attribute__((always_inline)) void last_of(int n, int s, const float *xr, const float *xi, float *yr, float *yi,
                                                           int is_power) {
  for (int q = 0; q < s; q += 4) {
    cpx x[8], y[8];
    for (int j = 0; j < n; j++) x[j] = (cpx){LOAD(xr + q + j * s), LOAD(xi + q + j * s)};
    butterflies(n, x, y);
    for (int k = 0; k < n; k++) {
      int at = q + k * s;
      if (is_power) STORE(yr + at, ADD(MUL(y[k].r, y[k].r), MUL(y[k].i, y[k].i)));
      else {
        STORE(yr + at, y[k].r);
        STORE(yi + at, y[k].i);
      }
    }
  }
}

/* All steps but the last; tells where the data lies and what is left. */
typedef struct { float *r, *i, *other; int n, s; } left_over;

static APART_FROM_CALLERS void last_step(left_over l, float *yr, float *yi) {
  if (l.n == 4) last_of(4, l.s, l.r, l.i, yr, yi, 0);
  else last_of(8, l.s, l.r, l.i, yr, yi, 0);
}

/* Between the parts of the work, so that what is read and written together does not share the same lines of the cache. */
#define APART 80

/*
 * The first step is of four; behind it as many steps of eight as leave an even number of halvings for steps of four, which
 * come before them: where the stride is short they cost less.
 */
static APART_FROM_CALLERS left_over middle_steps(int size, const float *tw, float *work) {
  float *ar = work, *ai = work + size + APART, *br = work + 2 * (size + APART), *bi = work + 3 * (size + APART);
  int n = size / 4, s = 4, halvings = __builtin_ctz(n), eights = halvings / 3;
  if ((halvings - eights) % 2 != 0) eights--;
  int fours = (halvings - 3 * eights) / 2;
  while (n > 8 || (n > 4 && eights == 0)) {
    if (fours > 0) {
      tw = middle_step(4, n, s, tw, ar, ai, br, bi);
      fours--;
      n /= 4;
      s *= 4;
    } else {
      tw = middle_step(8, n, s, tw, ar, ai, br, bi);
      n /= 8;
      s *= 8;
    }
    float *t = ar;
    ar = br;
    br = t;
    t = ai;
    ai = bi;
    bi = t;
  }
  return (left_over){ar, ai, br, n, s};
}

/* With pairs that a window is multiplied with, if there is one. */
static APART_FROM_CALLERS left_over all_but_last(int size, const float *x, const float *w, const float *tw, float *work) {
  tw = w ? first_step(size, x, w, tw, work, work + size + APART) : first_step(size, x, 0, tw, work, work + size + APART);
  return middle_steps(size, tw, work);
}

/*
 * Powers of `size` interleaved complex samples, bins in natural order from 0.
 * size: power of two from 16; w: 2 size window values (each twice); tw: twiddles; work: 4 size and 320 more; out: size.
 */
EXPORT("complexPowers") void complex_powers(int size, const float *x, const float *w, const float *tw, float *work, float *out) {
  left_over l = all_but_last(size, x, w, tw, work);
  if (l.n == 4) last_of(4, l.s, l.r, l.i, out, 0, 1);
  else last_of(8, l.s, l.r, l.i, out, 0, 1);
}

/* The same with the values themselves: `size` real parts, then as many imaginary ones. */
EXPORT("complexSpectrum") void complex_spectrum(int size, const float *x, const float *w, const float *tw, float *work, float *out) {
  left_over l = all_but_last(size, x, w, tw, work);
  last_step(l, out, out + size);
}

/*
 * Powers of 2 size real samples, size + 1 bins. They are transformed as `size` complex ones and taken apart.
 * w: 2 size window values; post: size / 2 + 4 cosines and as many sines of pi k / size, one after the other.
 */
EXPORT("realPowers") void real_powers(int size, const float *x, const float *w, const float *tw, const float *post, float *work, float *out) {
  left_over l = all_but_last(size, x, w, tw, work);
  float *zr = l.other, *zi = l.other + size + APART;
  last_step(l, zr, zi);
  const float *cosines = post, *sines = post + size / 2 + 4;
  out[0] = (zr[0] + zi[0]) * (zr[0] + zi[0]);
  out[size] = (zr[0] - zi[0]) * (zr[0] - zi[0]);
  const vec half = wasm_f32x4_splat(0.5f);
  int k = 1;
  for (; k + 3 <= size / 2; k += 4) {
    vec mr = LOAD(zr + size - k - 3), mi = LOAD(zi + size - k - 3);
    mr = wasm_i32x4_shuffle(mr, mr, 3, 2, 1, 0);
    mi = wasm_i32x4_shuffle(mi, mi, 3, 2, 1, 0);
    vec a = LOAD(zr + k), b = LOAD(zi + k);
    vec er = MUL(half, ADD(a, mr)), ei = MUL(half, SUB(b, mi));
    vec or = MUL(half, ADD(b, mi)), oi = MUL(half, SUB(mr, a));
    vec c = LOAD(cosines + k), s = LOAD(sines + k);
    vec tr = ADD(MUL(or, c), MUL(oi, s)), ti = SUB(MUL(oi, c), MUL(or, s));
    vec pr = ADD(er, tr), pi = ADD(ei, ti), qr = SUB(er, tr), qi = SUB(ei, ti);
    STORE(out + k, ADD(MUL(pr, pr), MUL(pi, pi)));
    vec q = ADD(MUL(qr, qr), MUL(qi, qi));
    STORE(out + size - k - 3, wasm_i32x4_shuffle(q, q, 3, 2, 1, 0));
  }
  for (; k <= size / 2; k++) {
    float er = 0.5f * (zr[k] + zr[size - k]), ei = 0.5f * (zi[k] - zi[size - k]);
    float or = 0.5f * (zi[k] + zi[size - k]), oi = 0.5f * (zr[size - k] - zr[k]);
    float tr = or * cosines[k] + oi * sines[k], ti = oi * cosines[k] - or * sines[k];
    out[k] = (er + tr) * (er + tr) + (ei + ti) * (ei + ti);
    out[size - k] = (er - tr) * (er - tr) + (ei - ti) * (ei - ti);
  }
}

/*
 * Circular convolution of `size` samples, interleaved pairs or real ones, with a filter given as its transform over `size`
 * (real parts, then imaginary parts). Back by the conjugate: ifft(X) = conj(fft(conj(X))) / size. The first `skip` pairs of
 * the result are left out. tw: twiddles; work: 6 size and 320 more; out may be x.
 */
EXPORT("convolve") void convolve(int size, const float *x, int is_real, const float *tw, const float *filter, float *work, int skip,
                                 float *out) {
  float *pairs = work + 4 * (size + APART);
  left_over l = is_real ? middle_steps(size, first_step_of_reals(size, x, tw, work, work + size + APART), work)
                        : all_but_last(size, x, 0, tw, work);
  float *zr = l.other, *zi = l.other + size + APART;
  last_step(l, zr, zi);
  const vec scale = wasm_f32x4_splat(1.0f / size), minus = wasm_f32x4_splat(-1.0f / size);
  for (int k = 0; k < size; k += 4) {
    cpx y = times((cpx){LOAD(zr + k), LOAD(zi + k)}, LOAD(filter + k), LOAD(filter + size + k));
    store_interleaved(pairs + 2 * k, MUL(scale, y.r), MUL(minus, y.i));
  }
  l = all_but_last(size, pairs, 0, tw, work);
  zr = l.other, zi = l.other + size + APART;
  last_step(l, zr, zi);
  int k = skip;
  for (; k < size && k % 4 != 0; k++, out += 2) {
    out[0] = zr[k];
    out[1] = -zi[k];
  }
  for (; k < size; k += 4, out += 8) store_interleaved(out, LOAD(zr + k), wasm_f32x4_neg(LOAD(zi + k)));
}
