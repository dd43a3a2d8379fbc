/**
 * A measurement whose drawing is worked out when somebody looks at it, and once: who wants the numbers alone, as the command line
 * does, waits for no drawing.
 */
export function withDetail<M, D extends object>(measurement: M, draw: () => D): { readonly measurement: M; readonly detail: D } {
  let detail: D | undefined;
  return {
    measurement,
    get detail() {
      detail ??= draw();
      return detail;
    },
  };
}
