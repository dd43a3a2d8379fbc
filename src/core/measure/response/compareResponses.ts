/** Two responses side by side: against a reference radio, or with and without the microphone. */
import { type CurvePoint, curveAt } from '../../curve/index.ts';
import { mean } from '../../dsp/index.ts';
import { type Decibels, decibels, type Hertz, hertz } from '../../units/index.ts';
import type { ResponseMeasurement } from '../measurement.ts';

type Curved = Pick<ResponseMeasurement, 'curve' | 'passbandHz'>;

/** Regions that operators speak of, re the middle. */
const REGIONS: readonly { readonly name: string; readonly band: readonly [Hertz, Hertz] }[] = [
  { name: 'lows', band: [150, 350] },
  { name: 'highs', band: [1800, 2700] },
];
const MIDDLE: readonly [Hertz, Hertz] = [500, 1500];
/** Less than this is no difference to an ear. Common practice. */
const AUDIBLE_DB: Decibels = 2;
/** A path that falls short of the middle by this much there is what people complain of. Common practice. */
const TROUBLE_DB: Decibels = 4;

const meanIn = (curve: readonly CurvePoint[], [low, high]: readonly [Hertz, Hertz]): Decibels => {
  const levels = curve.filter(([hz]) => hz >= low && hz <= high).map(([, level]) => level);
  return levels.length === 0 ? 0 : mean(levels);
};
const reMiddle = (curve: readonly CurvePoint[], band: readonly [Hertz, Hertz]): Decibels => meanIn(curve, band) - meanIn(curve, MIDDLE);

/** a less b, both re the mean of 500-1500 Hz, at a's frequencies that b knows. */
function differenceOf(a: readonly CurvePoint[], b: readonly CurvePoint[]): CurvePoint[] {
  const [low, high] = [b[0]?.[0] ?? 0, b[b.length - 1]?.[0] ?? 0];
  const shift = meanIn(a, MIDDLE) - meanIn(b, MIDDLE);
  return a.filter(([hz]) => hz >= low && hz <= high).map(([hz, level]) => [hz, level - curveAt(b, hz) - shift]);
}

/** Two responses against each other, in sentences. */
export interface Comparison {
  /** First less second, re their middles. */
  readonly difference: readonly CurvePoint[];
  readonly sentences: readonly string[];
}

/** @param nameA @param nameB what the two are called in sentences */
export function compareResponses(a: Curved, b: Curved, nameA: string, nameB: string): Comparison {
  const difference = differenceOf(a.curve, b.curve);
  const sentences = REGIONS.flatMap(({ name, band }) => {
    const by = reMiddle(difference, band);
    return Math.abs(by) < AUDIBLE_DB
      ? []
      : [`In the ${name} (${band[0]}–${band[1]} Hz) ${nameA} has ${decibels(Math.abs(by))} ${by > 0 ? 'more' : 'less'} than ${nameB}.`];
  });
  for (const [i, side] of (['lower', 'upper'] as const).entries()) {
    const [edgeA, edgeB] = [a.passbandHz?.[i] ?? null, b.passbandHz?.[i] ?? null];
    if (edgeA === null || edgeB === null || Math.abs(edgeA - edgeB) < 0.06 * edgeB) continue;
    sentences.push(`The ${side} −6 dB edge is at ${hertz(edgeA)} for ${nameA} and at ${hertz(edgeB)} for ${nameB}.`);
  }
  return { difference, sentences: sentences.length > 0 ? sentences : [`${nameA} and ${nameB} are alike within ${AUDIBLE_DB} dB.`] };
}

/** Whether it is the mic or the radio. */
export interface Verdict {
  /** What the microphone adds, re its own middle. */
  readonly mic: readonly CurvePoint[];
  readonly sentences: readonly string[];
}

/**
 * Whose fault it is: from the test signal fed into the mic socket (the radio alone), and the same played into the
 * microphone.
 */
export function micOrRadio(radio: Curved, withMic: Curved): Verdict {
  const mic = differenceOf(withMic.curve, radio.curve);
  const word = (by: Decibels) => `${by > 0 ? 'raises' : 'takes away'} ${decibels(Math.abs(by))}`;
  const sentences = REGIONS.map(({ name, band }) => {
    const [byRadio, byMic] = [reMiddle(radio.curve, band), reMiddle(mic, band)];
    const [isRadio, isMic] = [byRadio, byMic].map((by) => Math.abs(by) >= TROUBLE_DB);
    const range = `${band[0]}–${band[1]} Hz`;
    if (isRadio && isMic) return `The ${name} (${range}): both. The radio ${word(byRadio)}, the mic ${word(byMic)}.`;
    if (isRadio) return `The ${name} (${range}): it is the radio, which ${word(byRadio)}. The mic is flat there.`;
    if (isMic) return `The ${name} (${range}): it is the mic, which ${word(byMic)}. The radio is flat there.`;
    return `The ${name} (${range}): the radio and the mic is flat within ${TROUBLE_DB} dB.`.replace(
      'radio and the mic is',
      'radio is flat, and the mic is',
    );
  });
  return { mic, sentences };
}
