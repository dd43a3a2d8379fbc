/** The one number that says most of a measurement, for a line in a log. */
import { decibels, fixed, hertz, roughPercent } from '../units/index.ts';
import type { Measurement } from './measurement.ts';

const told = (value: number | null, text: (value: number) => string): string => (value === null ? 'not measurable' : text(value));

/** The line of a measurement of any kind. */
export function headline(m: Measurement): string {
  switch (m.kind) {
    case 'voice':
      return m.snrDb === null
        ? told(m.activeSpeechLevelDb, (level) => `speech at ${decibels(level)}`)
        : `${decibels(m.snrDb)} signal-to-noise`;
    case 'ssb':
      return told(m.occupiedBandwidthHz, (hz) => `${hertz(hz)} wide`);
    case 'am':
      return told(m.modulationDepth.positive, (depth) => `${roughPercent(depth)} up`);
    case 'fm':
      return told(m.peakDeviationHz, (hz) => `${hertz(hz)} deviation`);
    case 'two-tone':
      return told(m.imd3PepDb, (level) => `IMD3 ${decibels(level)} PEP`);
    case 'response': {
      const [low, high] = m.passbandHz ?? [null, null];
      const edge = (hz: number | null) => (hz === null ? '?' : fixed(hz, 0));
      return `${edge(low)} to ${edge(high)} Hz`;
    }
    case 'power':
      return told(m.pepW, (watts) => `${Number(watts.toPrecision(3))} W PEP`);
  }
}
