/* Gain laws of the transmitter model. */

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

static inline void saturate_one(float *x, const float *gains, float scale, float top, double saturation, double p) {
  float power = x[0] * x[0] + x[1] * x[1], gain;
  if (power < top) gain = looked_up(gains, power * scale);
  else gain = (float)exponential(natural_log(1 + exponential(p * natural_log(power / saturation))) * (-0.5 / p));
  x[0] *= gain;
  x[1] *= gain;
}

/*
 * Saturates n pairs by their power: a table of `steps` steps up to `top`, above it the law itself,
 * (1 + (power / saturation)^p)^(-1 / 2p).
 */
EXPORT("saturate") void saturate(float *x, int n, const float *gains, int steps, float top, double saturation, double p) {
  float scale = steps / top;
  const vec limit = wasm_f32x4_splat(top), scales = wasm_f32x4_splat(scale);
  int k = 0;
  for (; k + 4 <= n; k += 4) {
    vec a = LOAD(x + 2 * k), b = LOAD(x + 2 * k + 4), s = MUL(a, a), t = MUL(b, b);
    vec power = ADD(wasm_i32x4_shuffle(s, t, 0, 2, 4, 6), wasm_i32x4_shuffle(s, t, 1, 3, 5, 7));
    if (!wasm_i32x4_all_true(wasm_f32x4_lt(power, limit))) {
      for (int i = k; i < k + 4; i++) saturate_one(x + 2 * i, gains, scale, top, saturation, p);
      continue;
    }
    vec at = MUL(power, scales), index = wasm_i32x4_trunc_sat_f32x4(at), rest = SUB(at, wasm_f32x4_convert_i32x4(index));
    // Each with the value behind it.
    vec g0 = wasm_v128_load64_zero(gains + wasm_i32x4_extract_lane(index, 0)), g1 = wasm_v128_load64_zero(gains + wasm_i32x4_extract_lane(index, 1));
    vec g2 = wasm_v128_load64_zero(gains + wasm_i32x4_extract_lane(index, 2)), g3 = wasm_v128_load64_zero(gains + wasm_i32x4_extract_lane(index, 3));
    vec first = wasm_i32x4_shuffle(g0, g1, 0, 4, 1, 5), last = wasm_i32x4_shuffle(g2, g3, 0, 4, 1, 5);
    vec low = wasm_i64x2_shuffle(first, last, 0, 2), high = wasm_i64x2_shuffle(first, last, 1, 3);
    vec gain = ADD(low, MUL(rest, SUB(high, low)));
    STORE(x + 2 * k, MUL(a, wasm_i32x4_shuffle(gain, gain, 0, 0, 1, 1)));
    STORE(x + 2 * k + 4, MUL(b, wasm_i32x4_shuffle(gain, gain, 2, 2, 3, 3)));
  }
  for (; k < n; k++) saturate_one(x + 2 * k, gains, scale, top, saturation, p);
}
