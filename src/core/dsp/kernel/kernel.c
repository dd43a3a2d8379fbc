/*
 * The signal kernel: what measuring spends its time on, in single precision with 128-bit vectors.
 * Built by `npm run kernel` with Debian's clang; the bytes in kernelBytes.ts are what it gives.
 *
 * Transform: Stockham autosort, steps of four and of eight, real and imaginary parts apart. The window is multiplied in while the first step reads, the power taken while the last one
 * writes. Twiddles come from the host, worked out in double precision. Sums are kept in double precision.
 */
#include <wasm_simd128.h>

typedef v128_t vec;
#define EXPORT(name) __attribute__((export_name(name)))
#define LOAD(p) wasm_v128_load(p)
#define SPLAT(p) wasm_v128_load32_splat(p)
#define STORE(p, x) wasm_v128_store(p, x)
#define ADD wasm_f32x4_add
#define SUB wasm_f32x4_sub
#define MUL wasm_f32x4_mul

/* First address that the host may use. */
extern unsigned char __heap_base;
EXPORT("heapBase") unsigned heap_base(void) { return (unsigned)&__heap_base; }

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

static inline __attribute__((always_inline)) void last_step(int n, int s, const float *xr, const float *xi, float *yr,
                                                             float *yi, int is_power) {
  if (n == 4) last_of(4, s, xr, xi, yr, yi, is_power);
  else last_of(8, s, xr, xi, yr, yi, is_power);
}

/* Between the parts of the work, so that what is read and written together does not share the same lines of the cache. */
#define APART 48

/* All steps but the last; tells where the data lies and what is left. */
typedef struct { float *r, *i, *other; int n, s; } left_over;

/*
 * The first step is of four; behind it as many steps of eight as leave an even number of halvings for steps of four, which
 * come before them: where the stride is short they cost less.
 */
static left_over middle_steps(int size, const float *tw, float *work) {
  float *ar = work, *ai = work + size + APART, *br = work + 2 * (size + APART), *bi = work + 3 * (size + APART);
  int n = size / 4, s = 4, halvings = __builtin_ctz(n), eights = halvings / 3;
  if ((halvings - eights) % 2 != 0) eights--;
  int fours = (halvings - 3 * eights) / 2;
  while (n > 8 || (n > 4 && eights == 0)) {
    if (fours > 0) {
      tw = s == 4 ? middle_step(4, n, 4, tw, ar, ai, br, bi) : middle_step(4, n, s, tw, ar, ai, br, bi);
      fours--;
      n /= 4;
      s *= 4;
    } else {
      tw = s == 4 ? middle_step(8, n, 4, tw, ar, ai, br, bi) : middle_step(8, n, s, tw, ar, ai, br, bi);
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
static left_over all_but_last(int size, const float *x, const float *w, const float *tw, float *work) {
  tw = w ? first_step(size, x, w, tw, work, work + size + APART) : first_step(size, x, 0, tw, work, work + size + APART);
  return middle_steps(size, tw, work);
}

/*
 * Powers of `size` interleaved complex samples, bins in natural order from 0.
 * size: power of two from 16; w: 2 size window values (each twice); tw: twiddles; work: 4 size and 192 more; out: size.
 */
EXPORT("complexPowers") void complex_powers(int size, const float *x, const float *w, const float *tw, float *work, float *out) {
  left_over l = all_but_last(size, x, w, tw, work);
  last_step(l.n, l.s, l.r, l.i, out, 0, 1);
}

/* The same with the values themselves: `size` real parts, then as many imaginary ones. */
EXPORT("complexSpectrum") void complex_spectrum(int size, const float *x, const float *w, const float *tw, float *work, float *out) {
  left_over l = all_but_last(size, x, w, tw, work);
  last_step(l.n, l.s, l.r, l.i, out, out + size, 0);
}

/*
 * Powers of 2 size real samples, size + 1 bins. They are transformed as `size` complex ones and taken apart.
 * w: 2 size window values; post: size / 2 + 4 cosines and as many sines of pi k / size, one after the other.
 */
EXPORT("realPowers") void real_powers(int size, const float *x, const float *w, const float *tw, const float *post, float *work, float *out) {
  left_over l = all_but_last(size, x, w, tw, work);
  float *zr = l.other, *zi = l.other + size + APART;
  last_step(l.n, l.s, l.r, l.i, zr, zi, 0);
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

/* Real parts of four and imaginary parts of four become eight interleaved values. */
static inline void store_interleaved(float *out, vec r, vec i) {
  STORE(out, wasm_i32x4_shuffle(r, i, 0, 4, 1, 5));
  STORE(out + 4, wasm_i32x4_shuffle(r, i, 2, 6, 3, 7));
}

/*
 * Circular convolution of `size` samples, interleaved pairs or real ones, with a filter given as its transform over `size`
 * (real parts, then imaginary parts). Back by the conjugate: ifft(X) = conj(fft(conj(X))) / size. The first `skip` pairs of
 * the result are left out. tw: twiddles; work: 6 size and 192 more; out may be x.
 */
EXPORT("convolve") void convolve(int size, const float *x, int is_real, const float *tw, const float *filter, float *work, int skip,
                                 float *out) {
  float *pairs = work + 4 * (size + APART);
  left_over l = is_real ? middle_steps(size, first_step_of_reals(size, x, tw, work, work + size + APART), work)
                        : all_but_last(size, x, 0, tw, work);
  float *zr = l.other, *zi = l.other + size + APART;
  last_step(l.n, l.s, l.r, l.i, zr, zi, 0);
  const vec scale = wasm_f32x4_splat(1.0f / size), minus = wasm_f32x4_splat(-1.0f / size);
  for (int k = 0; k < size; k += 4) {
    cpx y = times((cpx){LOAD(zr + k), LOAD(zi + k)}, LOAD(filter + k), LOAD(filter + size + k));
    store_interleaved(pairs + 2 * k, MUL(scale, y.r), MUL(minus, y.i));
  }
  l = all_but_last(size, pairs, 0, tw, work);
  zr = l.other, zi = l.other + size + APART;
  last_step(l.n, l.s, l.r, l.i, zr, zi, 0);
  int k = skip;
  for (; k < size && k % 4 != 0; k++, out += 2) {
    out[0] = zr[k];
    out[1] = -zi[k];
  }
  for (; k < size; k += 4, out += 8) store_interleaved(out, LOAD(zr + k), wasm_f32x4_neg(LOAD(zi + k)));
}

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

/* sum[k] += weight * powers[k] in double precision; n a multiple of 4 or the rest one by one. */
EXPORT("accumulate") void accumulate(double *sum, const float *powers, int n, double weight) {
  vec w = wasm_f64x2_splat(weight);
  int k = 0;
  for (; k + 4 <= n; k += 4) {
    vec p = LOAD(powers + k);
    vec lo = wasm_f64x2_promote_low_f32x4(p), hi = wasm_f64x2_promote_low_f32x4(wasm_i64x2_shuffle(p, p, 1, 1));
    STORE(sum + k, wasm_f64x2_add(LOAD(sum + k), wasm_f64x2_mul(w, lo)));
    STORE(sum + k + 2, wasm_f64x2_add(LOAD(sum + k + 2), wasm_f64x2_mul(w, hi)));
  }
  for (; k < n; k++) sum[k] += weight * powers[k];
}

/* highest[k] = max(highest[k], powers[k]) */
EXPORT("hold") void hold(float *highest, const float *powers, int n) {
  int k = 0;
  for (; k + 4 <= n; k += 4) STORE(highest + k, wasm_f32x4_pmax(LOAD(highest + k), LOAD(powers + k)));
  for (; k < n; k++)
    if (powers[k] > highest[k]) highest[k] = powers[k];
}

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

/* Sum of squares and largest magnitude of n values; result[0] and result[1]. */
EXPORT("squares") void squares(const float *x, int n, double *result) {
  vec low = wasm_f64x2_splat(0), high = low, top = wasm_f32x4_splat(0);
  int k = 0;
  for (; k + 4 <= n; k += 4) {
    vec v = LOAD(x + k), p = MUL(v, v);
    top = wasm_f32x4_pmax(top, wasm_f32x4_abs(v));
    low = wasm_f64x2_add(low, wasm_f64x2_promote_low_f32x4(p));
    high = wasm_f64x2_add(high, wasm_f64x2_promote_low_f32x4(wasm_i64x2_shuffle(p, p, 1, 1)));
  }
  low = wasm_f64x2_add(low, high);
  double sum = wasm_f64x2_extract_lane(low, 0) + wasm_f64x2_extract_lane(low, 1);
  float tops[4];
  STORE(tops, top);
  float peak = tops[0];
  for (int i = 1; i < 4; i++)
    if (tops[i] > peak) peak = tops[i];
  for (; k < n; k++) {
    float a = x[k] < 0 ? -x[k] : x[k];
    sum += (double)x[k] * x[k];
    if (a > peak) peak = a;
  }
  result[0] = sum;
  result[1] = peak;
}

static inline float sum_across(vec v) {
  vec two = ADD(v, wasm_i64x2_shuffle(v, v, 1, 1));
  return wasm_f32x4_extract_lane(two, 0) + wasm_f32x4_extract_lane(two, 1);
}

/* Sums over pairs: of I, of Q, of their squares, of their product; and the largest magnitude of any value. */
typedef struct {
  double i, q, ii, qq, iq, top;
} sums;

static inline void raise_top(sums *to, vec top) {
  float tops[4];
  STORE(tops, top);
  for (int k = 0; k < 4; k++)
    if (tops[k] > to->top) to->top = tops[k];
}

/* Adds sums over values that are `scale` times as large. Returns what of it is power. */
static inline double add_sums(sums *to, const sums *more, double scale) {
  double square = scale * scale;
  to->i += scale * more->i;
  to->q += scale * more->q;
  to->ii += square * more->ii;
  to->qq += square * more->qq;
  to->iq += square * more->iq;
  if (scale * more->top > to->top) to->top = scale * more->top;
  return square * (more->ii + more->qq);
}

/* A pair more. */
static inline void add_pair(sums *to, double i, double q) {
  double a = i < 0 ? -i : i, b = q < 0 ? -q : q, most = a > b ? a : b;
  to->i += i;
  to->q += q;
  to->ii += i * i;
  to->qq += q * q;
  to->iq += i * q;
  if (most > to->top) to->top = most;
}

/*
 * Moments of n interleaved I/Q pairs, added to sums (in single precision over 256 pairs at a time, then in double).
 * Returns the sum of their powers.
 */
EXPORT("moments") double moments(const float *x, int n, sums *to) {
  sums here = {0};
  vec top = wasm_f32x4_splat(0);
  int k = 0;
  for (; k + 4 <= n; ) {
    vec vs = wasm_f32x4_splat(0), vp = vs, vc = vs, ws = vs, wp = vs, wc = vs;
    for (int end = k + 256; k + 4 <= n && k < end; k += 4) {
      vec v = LOAD(x + 2 * k), w = LOAD(x + 2 * k + 4);
      top = wasm_f32x4_pmax(top, wasm_f32x4_pmax(wasm_f32x4_abs(v), wasm_f32x4_abs(w)));
      vs = ADD(vs, v);
      ws = ADD(ws, w);
      vp = ADD(vp, MUL(v, v));
      wp = ADD(wp, MUL(w, w));
      vc = ADD(vc, MUL(v, wasm_i32x4_shuffle(v, v, 1, 0, 3, 2)));
      wc = ADD(wc, MUL(w, wasm_i32x4_shuffle(w, w, 1, 0, 3, 2)));
    }
    float s[4], p[4], c[4];
    STORE(s, ADD(vs, ws));
    STORE(p, ADD(vp, wp));
    STORE(c, ADD(vc, wc));
    here.i += s[0] + s[2];
    here.q += s[1] + s[3];
    here.ii += p[0] + p[2];
    here.qq += p[1] + p[3];
    here.iq += c[0] + c[2];
  }
  raise_top(&here, top);
  for (; k < n; k++) add_pair(&here, x[2 * k], x[2 * k + 1]);
  return add_sums(to, &here, 1);
}

/* The same of 16-bit codes. */
EXPORT("momentsOfCodes") double moments_of_codes(const short *x, int n, sums *to) {
  sums here = {0};
  vec top = wasm_f32x4_splat(0);
  int k = 0;
  for (; k + 4 <= n; ) {
    vec si = wasm_f32x4_splat(0), sq = si, pi = si, pq = si, c = si;
    for (int end = k + 256; k + 4 <= n && k < end; k += 4) {
      vec v = LOAD(x + 2 * k), i = even_four(v), q = odd_four(v);
      top = wasm_f32x4_pmax(top, wasm_f32x4_pmax(wasm_f32x4_abs(i), wasm_f32x4_abs(q)));
      si = ADD(si, i);
      sq = ADD(sq, q);
      pi = ADD(pi, MUL(i, i));
      pq = ADD(pq, MUL(q, q));
      c = ADD(c, MUL(i, q));
    }
    here.i += sum_across(si);
    here.q += sum_across(sq);
    here.ii += sum_across(pi);
    here.qq += sum_across(pq);
    here.iq += sum_across(c);
  }
  raise_top(&here, top);
  for (; k < n; k++) add_pair(&here, x[2 * k], x[2 * k + 1]);
  return add_sums(to, &here, CODE);
}

/*
 * Filters interleaved pairs with complex taps, one output every `step` pairs: out[n] = sum of tap[k] x[n step + k].
 * re and im: the taps' parts, each value twice; taps is even. x holds (count - 1) step + taps pairs.
 */
EXPORT("decimate") void decimate(const float *x, const float *re, const float *im, int taps, int step, int count, float *out) {
  for (int n = 0; n < count; n++, x += 2 * step) {
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
    float a[4], b[4];
    STORE(a, ADD(a0, a1));
    STORE(b, ADD(b0, b1));
    out[2 * n] = a[0] + a[2] - (b[1] + b[3]);
    out[2 * n + 1] = a[1] + a[3] + b[0] + b[2];
  }
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

/* `turn`, then `halve`, of pairs of 16-bit codes; n, period and phase multiples of four. */
EXPORT("turnAndHalve") void turn_and_halve(const short *x, int n, const float *c, const float *s, int period, int phase, float *even,
                                           float *odd, int held, const float *taps, int reach, float *out) {
  float *e = even + 2 * held, *o = odd + 2 * held;
  const vec scale = wasm_f32x4_splat(CODE);
  for (int k = 0; k < n; k += 4) {
    vec v = LOAD(x + 2 * k), i = MUL(scale, even_four(v)), q = MUL(scale, odd_four(v));
    vec c0 = LOAD(c + 2 * phase), c1 = LOAD(c + 2 * phase + 4), s0 = LOAD(s + 2 * phase), s1 = LOAD(s + 2 * phase + 4);
    vec cosines = wasm_i32x4_shuffle(c0, c1, 0, 2, 4, 6), sines = wasm_i32x4_shuffle(s0, s1, 1, 3, 5, 7);
    vec a = SUB(MUL(i, cosines), MUL(q, sines)), b = ADD(MUL(q, cosines), MUL(i, sines));
    STORE(e + k, wasm_i32x4_shuffle(a, b, 0, 4, 2, 6));
    STORE(o + k, wasm_i32x4_shuffle(a, b, 1, 5, 3, 7));
    phase = phase + 4 == period ? 0 : phase + 4;
  }
  halve_pairs(even, odd, held, n / 2, taps, reach, out);
}

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

/* Sum of n values. */
EXPORT("sumOf") float sum_of(const float *x, int n) {
  vec sum = wasm_f32x4_splat(0);
  int k = 0;
  for (; k + 4 <= n; k += 4) sum = ADD(sum, LOAD(x + k));
  float s[4];
  STORE(s, sum);
  float rest = 0;
  for (; k < n; k++) rest += x[k];
  return s[0] + s[1] + s[2] + s[3] + rest;
}

/* sum[k] += weight * powers[k] in single precision, for sums of some hundreds; n a multiple of 4 or the rest one by one. */
EXPORT("addScaled") void add_scaled(float *sum, const float *powers, int n, float weight) {
  vec w = wasm_f32x4_splat(weight);
  int k = 0;
  for (; k + 4 <= n; k += 4) STORE(sum + k, ADD(LOAD(sum + k), MUL(w, LOAD(powers + k))));
  for (; k < n; k++) sum[k] += weight * powers[k];
}

/* The same into two sums at once. */
EXPORT("addToTwo") void add_to_two(float *sum, float *other, const float *powers, int n, float weight, float others) {
  vec w = wasm_f32x4_splat(weight), u = wasm_f32x4_splat(others);
  int k = 0;
  for (; k + 4 <= n; k += 4) {
    vec p = LOAD(powers + k);
    STORE(sum + k, ADD(LOAD(sum + k), MUL(w, p)));
    STORE(other + k, ADD(LOAD(other + k), MUL(u, p)));
  }
  for (; k < n; k++) {
    sum[k] += weight * powers[k];
    other[k] += others * powers[k];
  }
}

/*
 * Counts the powers of n interleaved pairs by the exponent and the six leading bits of the fraction of their float code:
 * 16384 bins. Returns their sum.
 */
EXPORT("tallyPowers") double tally_powers(const float *x, int n, unsigned *bins) {
  double sum = 0;
  for (int from = 0; from < n; from += 256) {
    int to = from + 256 < n ? from + 256 : n;
    vec part = wasm_f32x4_splat(0);
    int k = from;
    for (; k + 4 <= to; k += 4) {
      vec lo = LOAD(x + 2 * k), hi = LOAD(x + 2 * k + 4);
      lo = MUL(lo, lo);
      hi = MUL(hi, hi);
      vec p = ADD(wasm_i32x4_shuffle(lo, hi, 0, 2, 4, 6), wasm_i32x4_shuffle(lo, hi, 1, 3, 5, 7));
      part = ADD(part, p);
      vec at = wasm_u32x4_shr(p, 17);
      bins[wasm_u32x4_extract_lane(at, 0)]++;
      bins[wasm_u32x4_extract_lane(at, 1)]++;
      bins[wasm_u32x4_extract_lane(at, 2)]++;
      bins[wasm_u32x4_extract_lane(at, 3)]++;
    }
    float s[4];
    STORE(s, part);
    sum += (double)s[0] + s[1] + s[2] + s[3];
    for (; k < to; k++) {
      union { float f; unsigned u; } p = {x[2 * k] * x[2 * k] + x[2 * k + 1] * x[2 * k + 1]};
      bins[p.u >> 17]++;
      sum += p.f;
    }
  }
  return sum;
}

/* sum[k] += counts[k], whole numbers; n a multiple of 4. */
EXPORT("addCounts") void add_counts(unsigned *sum, const unsigned *counts, int n) {
  for (int k = 0; k < n; k += 4) STORE(sum + k, wasm_i32x4_add(LOAD(sum + k), LOAD(counts + k)));
}

/* Moves bytes; the two stretches may overlap. */
EXPORT("move") void move(void *to, const void *from, unsigned bytes) { __builtin_memmove(to, from, bytes); }

/* Sum of the powers of n interleaved pairs. */
EXPORT("powerOf") double power_of(const float *x, int n) {
  double sum = 0;
  for (int from = 0; from < 2 * n; from += 512) {
    int to = from + 512 < 2 * n ? from + 512 : 2 * n;
    vec part = wasm_f32x4_splat(0);
    int k = from;
    for (; k + 4 <= to; k += 4) part = ADD(part, MUL(LOAD(x + k), LOAD(x + k)));
    float s[4];
    STORE(s, part);
    sum += (double)s[0] + s[1] + s[2] + s[3];
    for (; k < to; k++) sum += x[k] * x[k];
  }
  return sum;
}

/* What an envelope by two equal one-pole smoothings of |x| goes by: what a step leaves of either, what of the first goes over
   into the second, and what the step's sum of |x| puts in. Then how they stand. */
typedef struct {
  double keep, pass, in_first, in_second, first, second;
} envelope;

static inline int across(vec v) {
  return wasm_i32x4_extract_lane(v, 0) + wasm_i32x4_extract_lane(v, 1) + wasm_i32x4_extract_lane(v, 2) + wasm_i32x4_extract_lane(v, 3);
}

/* Four values of a step: the envelope at its end, the sum of the squares, the highest and the lowest sample. */
static inline void end_step(envelope *e, float sum, float power, float top, float bottom, float *out) {
  e->second = e->keep * e->second + e->pass * e->first + e->in_second * sum;
  e->first = e->keep * e->first + e->in_first * sum;
  out[0] = e->second;
  out[1] = power;
  out[2] = top;
  out[3] = bottom;
}

/* `count` steps of `step` samples, as `end_step` has them. */
EXPORT("steps") void steps(const float *x, int count, int step, envelope *e, float *out) {
  for (int k = 0; k < count; k++, x += step, out += 4) {
    vec s = wasm_f32x4_splat(0), p = s, high = s, low = s;
    int n = 0;
    for (; n + 4 <= step; n += 4) {
      vec v = LOAD(x + n);
      s = ADD(s, wasm_f32x4_abs(v));
      p = ADD(p, MUL(v, v));
      high = wasm_f32x4_pmax(high, v);
      low = wasm_f32x4_pmin(low, v);
    }
    high = wasm_f32x4_pmax(high, wasm_i64x2_shuffle(high, high, 1, 1));
    low = wasm_f32x4_pmin(low, wasm_i64x2_shuffle(low, low, 1, 1));
    float sum = sum_across(s), power = sum_across(p);
    float top = wasm_f32x4_extract_lane(high, 0), bottom = wasm_f32x4_extract_lane(low, 0);
    if (wasm_f32x4_extract_lane(high, 1) > top) top = wasm_f32x4_extract_lane(high, 1);
    if (wasm_f32x4_extract_lane(low, 1) < bottom) bottom = wasm_f32x4_extract_lane(low, 1);
    for (; n < step; n++) {
      sum += x[n] < 0 ? -x[n] : x[n];
      power += x[n] * x[n];
      if (x[n] > top) top = x[n];
      if (x[n] < bottom) bottom = x[n];
    }
    end_step(e, sum, power, top, bottom, out);
  }
}

/* The same of 16-bit codes. Read as numbers without a sign, -32768 by two is -32768, and its square twice is 2^31. */
EXPORT("stepsOfCodes") void steps_of_codes(const short *x, int count, int step, envelope *e, float *out) {
  for (int k = 0; k < count; k++, x += step, out += 4) {
    vec s = wasm_i32x4_splat(0), high = s, low = s, p = wasm_f32x4_splat(0);
    int n = 0;
    for (; n + 8 <= step; n += 8) {
      vec v = LOAD(x + n);
      s = wasm_i32x4_add(s, wasm_u32x4_extadd_pairwise_u16x8(wasm_i16x8_abs(v)));
      p = ADD(p, wasm_f32x4_convert_u32x4(wasm_i32x4_dot_i16x8(v, v)));
      high = wasm_i16x8_max(high, v);
      low = wasm_i16x8_min(low, v);
    }
    int sum = across(s), top = 0, bottom = 0;
    float power = sum_across(p);
    short h[8], l[8];
    STORE(h, high);
    STORE(l, low);
    for (int i = 0; i < 8; i++) {
      if (h[i] > top) top = h[i];
      if (l[i] < bottom) bottom = l[i];
    }
    for (; n < step; n++) {
      int v = x[n];
      sum += v < 0 ? -v : v;
      power += (float)v * v;
      if (v > top) top = v;
      if (v < bottom) bottom = v;
    }
    end_step(e, sum * CODE, power * (CODE * CODE), top * CODE, bottom * CODE, out);
  }
}

/* What `held` samples of either row and `made` new ones give, as `halve` has it; may write three samples more. */
static inline void halve_rows(const float *even, const float *odd, int held, int made, const float *taps, int reach, float *out) {
  int count = held + made - 2 * reach + 1;
  vec middle = LOAD(taps);
  int m = 0;
  for (; m + 16 <= count; m += 16) {
    const float *here = even + m + reach, *up = odd + m + reach, *down = up - 1, *tap = taps + 4;
    vec a = MUL(middle, LOAD(here)), b = MUL(middle, LOAD(here + 4)), c = MUL(middle, LOAD(here + 8)), d = MUL(middle, LOAD(here + 12));
    for (int j = 0; j < reach; j++, tap += 4, up++, down--) {
      vec t = LOAD(tap);
      a = ADD(a, MUL(t, ADD(LOAD(down), LOAD(up))));
      b = ADD(b, MUL(t, ADD(LOAD(down + 4), LOAD(up + 4))));
      c = ADD(c, MUL(t, ADD(LOAD(down + 8), LOAD(up + 8))));
      d = ADD(d, MUL(t, ADD(LOAD(down + 12), LOAD(up + 12))));
    }
    STORE(out + m, a);
    STORE(out + m + 4, b);
    STORE(out + m + 8, c);
    STORE(out + m + 12, d);
  }
  for (; m < count; m += 4) {
    const float *up = odd + m + reach, *down = up - 1, *tap = taps + 4;
    vec a = MUL(middle, LOAD(even + m + reach));
    for (int j = 0; j < reach; j++, tap += 4, up++, down--) a = ADD(a, MUL(LOAD(tap), ADD(LOAD(down), LOAD(up))));
    STORE(out + m, a);
  }
}

/* `halve` for real samples: even and odd hold `held` samples each, n is even; may write three samples more. */
EXPORT("halveReal") void halve_real(const float *x, int n, float *even, float *odd, int held, const float *taps, int reach, float *out) {
  float *e = even + held, *o = odd + held;
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
  halve_rows(even, odd, held, n / 2, taps, reach, out);
}

/* The same of 16-bit codes. */
EXPORT("halveCodes") void halve_codes(const short *x, int n, float *even, float *odd, int held, const float *taps, int reach, float *out) {
  float *e = even + held, *o = odd + held;
  const vec scale = wasm_f32x4_splat(CODE);
  int k = 0;
  for (; k + 8 <= n; k += 8) {
    vec v = LOAD(x + k);
    STORE(e + k / 2, MUL(scale, even_four(v)));
    STORE(o + k / 2, MUL(scale, odd_four(v)));
  }
  for (; k < n; k += 2) {
    e[k / 2] = x[k] * CODE;
    o[k / 2] = x[k + 1] * CODE;
  }
  halve_rows(even, odd, held, n / 2, taps, reach, out);
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
EXPORT("toInt16") void to_int16(const float *x, int n, float scale, short *out) {
  vec s = wasm_f32x4_splat(scale);
  for (int k = 0; k < n; k += 8) {
    vec a = wasm_i32x4_trunc_sat_f32x4(wasm_f32x4_nearest(MUL(s, LOAD(x + k))));
    vec b = wasm_i32x4_trunc_sat_f32x4(wasm_f32x4_nearest(MUL(s, LOAD(x + k + 4))));
    STORE(out + k, wasm_i16x8_narrow_i32x4(a, b));
  }
}

/* out[lag] = sum over n < window of x[n] x[n + lag], for lags 0 .. lags; window a multiple of 8. Sums must stay within 32 bits. */
EXPORT("correlations") void correlations(const short *x, int window, int lags, int *out) {
  int lag = 0;
  for (; lag + 4 <= lags + 1; lag += 4) {
    vec a = wasm_i32x4_splat(0), b = a, c = a, d = a;
    for (int n = 0; n < window; n += 8) {
      vec v = LOAD(x + n);
      a = wasm_i32x4_add(a, wasm_i32x4_dot_i16x8(v, LOAD(x + n + lag)));
      b = wasm_i32x4_add(b, wasm_i32x4_dot_i16x8(v, LOAD(x + n + lag + 1)));
      c = wasm_i32x4_add(c, wasm_i32x4_dot_i16x8(v, LOAD(x + n + lag + 2)));
      d = wasm_i32x4_add(d, wasm_i32x4_dot_i16x8(v, LOAD(x + n + lag + 3)));
    }
    out[lag] = across(a);
    out[lag + 1] = across(b);
    out[lag + 2] = across(c);
    out[lag + 3] = across(d);
  }
  for (; lag <= lags; lag++) {
    vec a = wasm_i32x4_splat(0);
    for (int n = 0; n < window; n += 8) a = wasm_i32x4_add(a, wasm_i32x4_dot_i16x8(LOAD(x + n), LOAD(x + n + lag)));
    out[lag] = across(a);
  }
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

/* The sum of the powers, the highest and the lowest of `count` steps of `steps`, into result[0] to [2]. */
EXPORT("stepTotals") void step_totals(const float *values, int count, double *result) {
  double power = 0;
  float top = values[2], bottom = values[3];
  for (int k = 0; k < count; k++, values += 4) {
    power += values[1];
    if (values[2] > top) top = values[2];
    if (values[3] < bottom) bottom = values[3];
  }
  result[0] = power;
  result[1] = top;
  result[2] = bottom;
}

/* Thresholds 2^-30 to 2^-1 of ITU-T P.56, method B. */
#define THRESHOLDS 30

/* What envelopes have reached so far. */
typedef struct {
  double squares, samples;
  /* reached[k]: samples whose envelope reached exactly the k lowest thresholds; held[k]: samples kept by the hangover, +
     from the lowest threshold held on, - above the highest. */
  double reached[THRESHOLDS + 1], held[THRESHOLDS + 1], until[THRESHOLDS];
  /* Highest threshold reached within the hangover, and one: 0 for none. */
  double top;
} speech;

/* Counts `count` steps of `steps`, of `step` samples each, into a `speech`. */
EXPORT("countSpeech") void count_speech(const float *values, int count, double step, double hangover, speech *to) {
  int top = (int)to->top - 1;
  for (int k = 0; k < count; k++, values += 4) {
    float envelope = values[0];
    to->squares += values[1];
    int reached = envelope >= 0.5f ? THRESHOLDS : envelope <= 0 ? 0 : 32 - (envelope * 1073741824.0f < 1 ? 32 : __builtin_clz((unsigned)(envelope * 1073741824.0f)));
    to->reached[reached] += step;
    /* The highest threshold reached restarts the hangover of all below it; only it needs a note. */
    if (reached > 0) to->until[reached - 1] = to->samples + hangover;
    if (reached > top) top = reached - 1;
    while (top >= reached && to->until[top] < to->samples) top--;
    if (top >= reached) {
      to->held[reached] += step;
      to->held[top + 1] -= step;
    }
    to->samples += step;
  }
  to->top = top + 1;
}

/*
 * Lag of a frame's pitch by its squared differences from itself later by each lag, re their mean so far (A. de Cheveigne
 * and H. Kawahara 2002): the first dip under `dip`, else the lowest under `voiced`, between lags by a parabola; 0 where
 * there is none. codes and products as of `correlations`; work: lags + 1.
 */
EXPORT("pitchLag") double pitch_lag(const short *codes, const int *products, int window, int shortest, int longest, double dip,
                                    double voiced, double *work) {
  double own = products[0], later = own, running = 0;
  for (int lag = 1; lag <= longest; lag++) {
    double out = codes[lag - 1], in = codes[lag - 1 + window];
    later += in * in - out * out;
    double d = own + later - 2.0 * products[lag];
    running += d;
    work[lag] = running == 0 ? 1 : d * lag / running;
  }
  int best = shortest;
  for (int lag = shortest; lag < longest; lag++) {
    if (work[lag] < work[best]) best = lag;
    if (work[lag] < dip && work[lag] <= work[lag + 1]) {
      best = lag;
      break;
    }
  }
  if (work[best] > voiced || best <= shortest) return 0;
  double curve = work[best - 1] - 2 * work[best] + work[best + 1];
  return curve > 0 ? best + (work[best - 1] - work[best + 1]) / (2 * curve) : best;
}

static inline float higher_of_two(const float *powers, int bin) { return powers[bin] > powers[bin + 1] ? powers[bin] : powers[bin + 1]; }

/* Of `count` lines: the higher of two bins from bins[5 l] on, and the median of four such places beside it. */
EXPORT("linePowers") void line_powers(const float *powers, const int *bins, int count, float *out) {
  for (int l = 0; l < count; l++, bins += 5, out += 2) {
    float sum = 0, least = 3.4e38f, most = 0;
    for (int k = 1; k < 5; k++) {
      float p = higher_of_two(powers, bins[k]);
      sum += p;
      if (p < least) least = p;
      if (p > most) most = p;
    }
    out[0] = higher_of_two(powers, bins[0]);
    out[1] = (sum - least - most) / 2;
  }
}

/* x[k] *= gain */
EXPORT("scale") void scale(float *x, int n, float gain) {
  vec g = wasm_f32x4_splat(gain);
  int k = 0;
  for (; k + 4 <= n; k += 4) STORE(x + k, MUL(g, LOAD(x + k)));
  for (; k < n; k++) x[k] *= gain;
}

/* I becomes a I + b, Q becomes c Q, of n pairs. */
EXPORT("affine") void affine(float *x, int n, float a, float b, float c) {
  vec m = wasm_f32x4_make(a, c, a, c), o = wasm_f32x4_make(b, 0, b, 0);
  int k = 0;
  for (; k + 2 <= n; k += 2) STORE(x + 2 * k, ADD(o, MUL(m, LOAD(x + 2 * k))));
  for (; k < n; k++) {
    x[2 * k] = a * x[2 * k] + b;
    x[2 * k + 1] *= c;
  }
}

/* Powers of two pairs, each twice. */
static inline vec powers_twice(vec v) {
  vec p = MUL(v, v);
  return ADD(p, wasm_i32x4_shuffle(p, p, 1, 0, 3, 2));
}

/* Pairs of more power than `most` are brought to the size `ceiling`, others get `gain`. Returns the highest power that came in. */
EXPORT("clipPairs") float clip_pairs(float *x, int n, float most, float ceiling, float gain) {
  vec m = wasm_f32x4_splat(most), c = wasm_f32x4_splat(ceiling), g = wasm_f32x4_splat(gain), top = wasm_f32x4_splat(0);
  int k = 0;
  for (; k < n; k += 2) {
    vec v = k + 2 <= n ? LOAD(x + 2 * k) : wasm_v128_load64_zero(x + 2 * k);
    vec p = powers_twice(v);
    top = wasm_f32x4_pmax(top, p);
    vec y = MUL(v, wasm_v128_bitselect(wasm_f32x4_div(c, wasm_f32x4_sqrt(p)), g, wasm_f32x4_gt(p, m)));
    if (k + 2 <= n) STORE(x + 2 * k, y);
    else wasm_v128_store64_lane(x + 2 * k, y, 0);
  }
  float a = wasm_f32x4_extract_lane(top, 0), b = wasm_f32x4_extract_lane(top, 2);
  return a > b ? a : b;
}

/* Natural logarithm of x > 0: exponent, and the series of artanh of (m - 1) / (m + 1); to 1e-9. */
static double natural_log(double x) {
  union { double f; unsigned long long u; } v = {x};
  int e = (int)(v.u >> 52) - 1023;
  v.u = (v.u & 0xfffffffffffffULL) | (1023ULL << 52);
  if (v.f > 1.4142135623730951) {
    v.f /= 2;
    e++;
  }
  double s = (v.f - 1) / (v.f + 1), q = s * s;
  return e * 0.6931471805599453 + 2 * s * (1 + q * (1.0 / 3 + q * (1.0 / 5 + q * (1.0 / 7 + q * (1.0 / 9)))));
}

/* e to the x, for |x| under 700: a power of two, and the series of the rest. */
static double exponential(double x) {
  double k = __builtin_floor(x * 1.4426950408889634 + 0.5), r = x - k * 0.6931471805599453;
  double sum = 1, term = 1;
  for (int n = 1; n < 12; n++) {
    term *= r / n;
    sum += term;
  }
  union { double f; unsigned long long u; } v = {.u = (unsigned long long)(1023 + (int)k) << 52};
  return sum * v.f;
}

static inline float looked_up(const float *table, float at) {
  int k = (int)at;
  return table[k] + (at - k) * (table[k + 1] - table[k]);
}

/* What an ALC goes by, and where it stands. */
typedef struct {
  double threshold, slope, reserve, attack, release, steps_per_db;
  double reduction, gain, most_reduction, most_power;
} leveller;

/*
 * Turns n pairs down by their highest power in groups of eight (the last may be shorter), the gain sliding from group to
 * group. gains: a table over the reduction in decibels. The highest reduction and power of this call stay in `a`.
 */
EXPORT("level") void level(float *x, int n, const float *gains, leveller *a) {
  a->most_reduction = 0;
  a->most_power = 0;
  for (int from = 0; from < n; from += 8) {
    int count = n - from < 8 ? n - from : 8;
    float *v = x + 2 * from, power = 0;
    if (count == 8) {
      vec a = powers_twice(LOAD(v)), b = powers_twice(LOAD(v + 4)), c = powers_twice(LOAD(v + 8)), d = powers_twice(LOAD(v + 12));
      vec top = wasm_f32x4_pmax(wasm_f32x4_pmax(a, b), wasm_f32x4_pmax(c, d));
      float low = wasm_f32x4_extract_lane(top, 0), high = wasm_f32x4_extract_lane(top, 2);
      power = low > high ? low : high;
    } else for (int k = 0; k < count; k++) {
      float p = v[2 * k] * v[2 * k] + v[2 * k + 1] * v[2 * k + 1];
      if (p > power) power = p;
    }
    double target = power > a->threshold ? a->slope * natural_log(power / a->threshold) : 0;
    if (target > a->reserve) target = a->reserve;
    a->reduction += (target - a->reduction) * (target > a->reduction ? a->attack : a->release);
    float next = a->reduction > 1e-4 ? looked_up(gains, (float)(a->reduction * a->steps_per_db)) : 1;
    if (next != 1 || a->gain != 1) {
      float gain = (float)a->gain, step = (next - gain) / 8;
      vec g = wasm_f32x4_make(gain + step, gain + step, gain + 2 * step, gain + 2 * step), two = wasm_f32x4_splat(2 * step);
      if (count == 8) for (int k = 0; k < 16; k += 4, g = ADD(g, two)) STORE(v + k, MUL(g, LOAD(v + k)));
      else for (int k = 0; k < count; k++) {
        gain += step;
        v[2 * k] *= gain;
        v[2 * k + 1] *= gain;
      }
      a->gain = next;
    }
    if (a->reduction > a->most_reduction) a->most_reduction = a->reduction;
    if (power > a->most_power) a->most_power = power;
  }
}

/*
 * Saturates n pairs by their power: a table of `steps` steps up to `top`, above it the law itself,
 * (1 + (power / saturation)^p)^(-1 / 2p).
 */
EXPORT("saturate") void saturate(float *x, int n, const float *gains, int steps, float top, double saturation, double p) {
  float scale = steps / top;
  for (int k = 0; k < n; k++) {
    float i = x[2 * k], q = x[2 * k + 1], power = i * i + q * q, gain;
    if (power < top) gain = looked_up(gains, power * scale);
    else gain = (float)exponential(natural_log(1 + exponential(p * natural_log(power / saturation))) * (-0.5 / p));
    x[2 * k] = i * gain;
    x[2 * k + 1] = q * gain;
  }
}

/* Highest power of n pairs. */
EXPORT("highestPower") float highest_power(const float *x, int n) {
  vec top = wasm_f32x4_splat(0);
  int k = 0;
  for (; k + 2 <= n; k += 2) top = wasm_f32x4_pmax(top, powers_twice(LOAD(x + 2 * k)));
  if (k < n) top = wasm_f32x4_pmax(top, powers_twice(wasm_v128_load64_zero(x + 2 * k)));
  float a = wasm_f32x4_extract_lane(top, 0), b = wasm_f32x4_extract_lane(top, 2);
  return a > b ? a : b;
}
