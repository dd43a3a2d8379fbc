/* Sums, moments, counts and highest values; kept in double precision where there are many. */

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

/* Sum of the squares of n values (in single precision over 512 at a time, then in double). */
EXPORT("energy") double energy(const float *x, int n) {
  double sum = 0;
  for (int from = 0; from < n; from += 512) {
    int to = from + 512 < n ? from + 512 : n;
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

/* Largest magnitude of n values. */
EXPORT("peakOf") float peak_of(const float *x, int n) {
  vec top = wasm_f32x4_splat(0);
  int k = 0;
  for (; k + 4 <= n; k += 4) top = wasm_f32x4_pmax(top, wasm_f32x4_abs(LOAD(x + k)));
  float tops[4];
  STORE(tops, top);
  float peak = tops[0];
  for (int i = 1; i < 4; i++)
    if (tops[i] > peak) peak = tops[i];
  for (; k < n; k++) {
    float a = x[k] < 0 ? -x[k] : x[k];
    if (a > peak) peak = a;
  }
  return peak;
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
static APART_FROM_CALLERS double moments(const float *x, int n, sums *to) {
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
static APART_FROM_CALLERS double moments_of_codes(const short *x, int n, sums *to) {
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
 * Moments of n pairs, 16-bit codes or floats, and the mean powers of the parts of `part` pairs that they complete. Of the part
 * that is not whole `filled` pairs are there already, with the energy *open. Returns how many parts became whole.
 */
EXPORT("momentsByParts") int moments_by_parts(const void *x, int n, int is_codes, int part, int filled, sums *to, double *open, double *powers) {
  int made = 0;
  for (int at = 0; at < n;) {
    int take = part - filled < n - at ? part - filled : n - at;
    *open += is_codes ? moments_of_codes((const short *)x + 2 * at, take, to) : moments((const float *)x + 2 * at, take, to);
    at += take;
    filled += take;
    if (filled < part) break;
    powers[made++] = *open / part;
    *open = 0;
    filled = 0;
  }
  return made;
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

/*
 * sum[k] += weight * row[k] of `count` rows of `size`, from the first on, out of a ring of `rows` of them with a weight each; for the
 * `kept` first k and the `kept` last ones, a multiple of 4.
 */
EXPORT("addRows") void add_rows(float *sum, const float *ring, const float *weights, int rows, int first, int count, int kept, int size) {
  for (int part = 0; part < 2; part++) {
    int k = part == 0 ? 0 : size - kept, end = k + kept;
    for (; k + 16 <= end; k += 16) {
      vec a = LOAD(sum + k), b = LOAD(sum + k + 4), c = LOAD(sum + k + 8), d = LOAD(sum + k + 12);
      for (int i = 0, at = first; i < count; i++, at = at + 1 == rows ? 0 : at + 1) {
        const float *row = ring + at * size + k;
        vec w = SPLAT(weights + at);
        a = ADD(a, MUL(w, LOAD(row)));
        b = ADD(b, MUL(w, LOAD(row + 4)));
        c = ADD(c, MUL(w, LOAD(row + 8)));
        d = ADD(d, MUL(w, LOAD(row + 12)));
      }
      STORE(sum + k, a);
      STORE(sum + k + 4, b);
      STORE(sum + k + 8, c);
      STORE(sum + k + 12, d);
    }
    for (; k < end; k += 4) {
      vec a = LOAD(sum + k);
      for (int i = 0, at = first; i < count; i++, at = at + 1 == rows ? 0 : at + 1)
        a = ADD(a, MUL(SPLAT(weights + at), LOAD(ring + at * size + k)));
      STORE(sum + k, a);
    }
  }
}

/* `addScaled` into two sums at once. */
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

/* Highest power of n pairs. */
EXPORT("highestPower") float highest_power(const float *x, int n) {
  vec top = wasm_f32x4_splat(0);
  int k = 0;
  for (; k + 2 <= n; k += 2) top = wasm_f32x4_pmax(top, powers_twice(LOAD(x + 2 * k)));
  if (k < n) top = wasm_f32x4_pmax(top, powers_twice(wasm_v128_load64_zero(x + 2 * k)));
  float a = wasm_f32x4_extract_lane(top, 0), b = wasm_f32x4_extract_lane(top, 2);
  return a > b ? a : b;
}
