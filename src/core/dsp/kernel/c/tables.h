/* Tables that are worked out once, in double precision: sines, cosines, windows. */

/* A cosine and a sine. */
typedef struct { double c, s; } turned;

/*
 * Of 2 pi k / n, k under 2^32: by the nearest quarter of a turn and polynomials up to an eighth beside it.
 * Source of the coefficients: fdlibm, k_sin.c and k_cos.c (Sun Microsystems 1993).
 */
static turned turn_of(unsigned k, unsigned n) {
  long long at = 4 * (long long)(k % n), quarter = (2 * at + n) / (2 * (long long)n);
  double x = (double)(at - quarter * n) / n * 1.57079632679489661923, z = x * x;
  double s = x + x * z * (-1.66666666666666324348e-01 + z * (8.33333333332248946124e-03 + z * (-1.98412698298579493134e-04 +
             z * (2.75573137070700676789e-06 + z * (-2.50507602534068634195e-08 + z * 1.58969099521155010221e-10)))));
  double c = 1 - z / 2 + z * z * (4.16666666666666019037e-02 + z * (-1.38888888888741095749e-03 + z * (2.48015872894767294178e-05 +
             z * (-2.75573143513906633035e-07 + z * (2.08757232129817482790e-09 - z * 1.13596475577881948265e-11)))));
  switch (quarter & 3) {
    case 0: return (turned){c, s};
    case 1: return (turned){-s, c};
    case 2: return (turned){-c, -s};
    default: return (turned){s, -c};
  }
}

/* Cosines and sines of 2 pi k step / n for k < count; count times step must be under 2^32. */
EXPORT("turns") void turns(float *cosines, float *sines, int count, unsigned step, unsigned n) {
  for (int k = 0; k < count; k++) {
    turned t = turn_of(k * step, n);
    cosines[k] = t.c;
    sines[k] = t.s;
  }
}

/* A Hann window of `length` and silence up to `size`, each value `times` in a row. */
EXPORT("hannWindow") void hann_window(float *out, int length, int size, int times) {
  for (int k = 0; k < size; k++) {
    float w = k < length ? 0.5 - 0.5 * turn_of(k, length).c : 0;
    for (int t = 0; t < times; t++) *out++ = w;
  }
}
