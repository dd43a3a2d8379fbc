/** A measurement in words, for reading on a terminal. */
import type { Measurement, VoiceMeasurement } from '@/core/measure/index.ts';
import { fixed } from '@/core/units/index.ts';

type Row = readonly [string, string];

const NOTHING = 'not measurable';
const show = (value: number | null, digits: number, unit: string): string => (value === null ? NOTHING : `${fixed(value, digits)}${unit}`);
const percent = (value: number | null, digits: number): string => show(value === null ? null : 100 * value, digits, ' %');
const range = (pair: readonly [number | null, number | null] | null): string =>
  pair === null ? NOTHING : `${show(pair[0], 0, '')} to ${show(pair[1], 0, ' Hz')}`;

function voiceRows(m: VoiceMeasurement): Row[] {
  return [
    ['active speech level', show(m.activeSpeechLevelDb, 2, ' dB')],
    ['activity', percent(m.activityFactor, 1)],
    ['loudness', show(m.loudnessLufs, 2, ' LUFS')],
    ['peak to average', show(m.peakToAverageDb, 2, ' dB')],
    ['noise floor', show(m.noiseFloorDb, 1, ' dB')],
    ['signal-to-noise', show(m.snrDb, 1, ' dB')],
    ['pitch', show(m.pitchHz, 0, ' Hz')],
    ['level spread', show(m.levelSpreadDb, 1, ' dB')],
    ['tilt', show(m.tiltDbPerOctave, 2, ' dB an octave')],
    ['passband', range(m.passbandHz)],
    ['third octaves', m.thirdOctaveDb.map(([hz, db]) => `${Math.round(hz)} ${show(db, 1, '')}`).join(', ')],
  ];
}

function rowsOf(m: Measurement): Row[] {
  switch (m.kind) {
    case 'voice':
      return voiceRows(m);
    case 'ssb':
      return [
        ['carrier', `${show(m.carrierHz, 0, ' Hz')} from the centre, ${m.sideband.toUpperCase()}`],
        ['peak to average', show(m.peakToAverageDb, 2, ' dB')],
        ['passband', range(m.passbandHz)],
        ['occupied bandwidth', show(m.occupiedBandwidthHz, 0, ' Hz')],
        ['opposite sideband', show(m.oppositeSidebandDb, 1, ' dB')],
        ['carrier', `${show(m.carrierDb, 1, ' dB')}, ${show(m.carrierPepDb, 1, ' dB')} re PEP`],
        [
          '3.3 to 6.3 kHz off',
          `${show(m.adjacentDb.wantedSide, 1, ' dB')} wanted side, ${show(m.adjacentDb.otherSide, 1, ' dB')} other side`,
        ],
        ['extent at −40 dB', range(m.extentHz)],
      ];
    case 'am':
      return [
        ['carrier', `${show(m.carrierOffsetHz, 1, ' Hz')} from the centre`],
        ['modulation up', `${percent(m.modulationDepth.positive, 1)}, 99.9 percentile ${percent(m.modulationDepthUsual.positive, 1)}`],
        ['modulation down', `${percent(m.modulationDepth.negative, 1)}, 99.9 percentile ${percent(m.modulationDepthUsual.negative, 1)}`],
        ['audio bandwidth', show(m.audioBandwidthHz, 0, ' Hz')],
        ['occupied bandwidth', show(m.occupiedBandwidthHz, 0, ' Hz')],
      ];
    case 'fm':
      return [
        ['offset', `${show(m.offsetHz, 0, ' Hz')} from the centre`],
        ['peak deviation', `${show(m.peakDeviationHz, 0, ' Hz')}, 99.9 percentile ${show(m.peakDeviationUsualHz, 0, ' Hz')}`],
        ['of the voice', show(m.voicePeakDeviationHz, 0, ' Hz')],
        ['RMS deviation', show(m.rmsDeviationHz, 0, ' Hz')],
        ['audio bandwidth', show(m.audioBandwidthHz, 0, ' Hz')],
        ['Carson bandwidth', show(m.carsonBandwidthHz, 0, ' Hz')],
        ['occupied bandwidth', show(m.occupiedBandwidthHz, 0, ' Hz')],
        ['CTCSS tone', m.ctcssHz === null ? 'none' : show(m.ctcssHz, 1, ' Hz')],
      ];
    case 'two-tone':
      return [
        ['tones', range(m.tonesHz)],
        ['third order', `${show(m.imd3Db, 1, ' dB')} re a tone, ${show(m.imd3PepDb, 1, ' dB')} re PEP`],
        ['fifth order', `${show(m.imd5Db, 1, ' dB')} re a tone, ${show(m.imd5PepDb, 1, ' dB')} re PEP`],
      ];
    case 'power':
      return [
        ['PEP', `${show(m.pepW, 3, ' W')}, ${show(m.pepDbm, 2, ' dBm')} into ${m.loadOhms} ohm`],
        ['mean', show(m.meanW, 3, ' W')],
        ['PEP over mean', show(m.pepToMeanDb, 2, ' dB')],
        ['crest', `${show(m.crestV, 3, ' V')}, ${m.traceKind === 'rf' ? 'RF as it swings' : 'a detected envelope'}`],
      ];
    case 'response':
      return [
        ['passband at −6 dB', range(m.passbandHz)],
        ['ripple', show(m.rippleDb, 1, ' dB')],
        ['harmonics', show(m.distortionDb, 1, ' dB')],
        ['mistuned by', show(m.mistuneHz, 1, ' Hz')],
        ['clock error', show(m.clockPpm, 1, ' ppm')],
        ['level drift', show(m.levelDriftDb, 2, ' dB')],
        [
          'curve',
          m.curve
            .filter((_, k) => k % 8 === 0)
            .map(([hz, db]) => `${Math.round(hz)} ${show(db, 1, '')}`)
            .join(', '),
        ],
      ];
  }
}

/** Nothing to say of curves and traces, which are no recordings. */
const recordingRows = (m: Measurement): Row[] =>
  m.kind === 'power' || m.sampleRateHz === 0
    ? []
    : [
        ['length', `${show(m.durationS, 2, ' s')} at ${m.sampleRateHz} Hz`],
        ['clipped', percent(m.clippedShare, 4)],
      ];

export function describe(m: Measurement): string {
  const rows: Row[] = [...recordingRows(m), ...rowsOf(m)];
  return [
    ...rows.map(([name, value]) => `${name.padEnd(20)} ${value}`),
    ...m.findings.map((f) => `${f.severity.padEnd(5)} ${f.code}: ${f.text} (${f.evidence})`),
    ...Object.entries(m.notes).map(([key, note]) => `note on ${key}: ${note}`),
  ].join('\n');
}
