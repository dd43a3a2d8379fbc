/* What is told of a voice: levels of steps, active speech, pitch, lines of hum. */

/* What an envelope by two equal one-pole smoothings of |x| goes by: what a step leaves of either, what of the first goes over
   into the second, and what the step's sum of |x| puts in. Then how they stand. */
typedef struct {
  double keep, pass, in_first, in_second, first, second;
} envelope;

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

/* out[lag] = sum over n < window of x[n] x[n + lag], for lags 0 .. lags; window a multiple of 8. Sums must stay within 32 bits. */
static APART_FROM_CALLERS void correlations(const short *x, int window, int lags, int *out) {
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

/* The first step from `from` on whose highest sample is not under `above` or whose lowest is not over `below`; count where there is none. */
EXPORT("nextBeyond") int next_beyond(const float *values, int from, int count, float above, float below) {
  while (from < count && values[4 * from + 2] < above && values[4 * from + 3] > below) from++;
  return from;
}

/* The energy of what is no whole frame yet, and the highest and the lowest sample so far. */
typedef struct {
  double open, top, bottom;
} totals;

/* Energies of the frames of `part` steps that `count` more complete; `filled` are there already. Returns how many became whole. */
EXPORT("frameEnergies") int frame_energies(const float *values, int count, int part, int filled, totals *to, double *energies) {
  int made = 0;
  for (int k = 0; k < count; k++, values += 4) {
    to->open += values[1];
    if (values[2] > to->top) to->top = values[2];
    if (values[3] < to->bottom) to->bottom = values[3];
    if (++filled < part) continue;
    energies[made++] = to->open;
    to->open = 0;
    filled = 0;
  }
  return made;
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

/* Largest magnitude of samples as whole numbers: sums of some hundred products of two then stay within 32 bits. */
#define MOST_CODE 2048

/*
 * Lag of a frame's pitch by its squared differences from itself later by each lag, re their mean so far (A. de Cheveigne
 * and H. Kawahara 2002): the first dip under `dip`, else the lowest under `voiced`, between lags by a parabola; 0 where
 * there is none. size and window multiples of 8; codes: size and 8 more, products and work: longest + 1.
 */
EXPORT("pitchLag") double pitch_lag(const float *x, int size, int window, int shortest, int longest, double dip, double voiced, short *codes,
                                    int *products, double *work) {
  float peak = peak_of(x, size);
  if (peak == 0) return 0;
  to_int16(x, size, MOST_CODE / peak, codes);
  correlations(codes, window, longest, products);
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
