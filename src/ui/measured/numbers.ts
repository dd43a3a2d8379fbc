/** Which numbers of each kind are shown, in the operators' words; one table for reports and comparisons. */
import type { Measurement } from '@/core/measure/index.ts';
import { decibels, duration, fixed, percent } from '@/core/units/index.ts';
import { NOT_MEASURABLE, type NumberTold } from './NumberGrid.tsx';

/** A number with what it is in words, and as a value to compare; null where it can’t be measured. */
export interface ReportNumber extends NumberTold {
  readonly value: number | null;
  /** A difference of this much is worth a mark. */
  readonly matters: number;
}

const hz = (value: number | null, digits = 0): string => (value === null ? NOT_MEASURABLE : `${fixed(value, digits)} Hz`);
const measured = (value: number | null, digits: number, unit: string): string =>
  value === null ? NOT_MEASURABLE : `${Number(value.toPrecision(digits))} ${unit}`;
const share = (value: number | null, digits = 1): string => (value === null ? NOT_MEASURABLE : percent(value, digits));
const db = (name: string, value: number | null, note?: string, matters = 1): ReportNumber => ({
  name,
  text: decibels(value),
  value,
  note,
  matters,
});
const width = (pair: readonly [number | null, number | null] | null): number | null =>
  pair === null || pair[0] === null || pair[1] === null ? null : pair[1] - pair[0];
const range = (pair: readonly [number | null, number | null] | null): string =>
  pair === null ? NOT_MEASURABLE : `${pair[0] === null ? '?' : fixed(pair[0], 0)}–${pair[1] === null ? '?' : fixed(pair[1], 0)} Hz`;

/** Numbers that every recording has. */
const common = (m: Extract<Measurement, { sampleRateHz: number }>): ReportNumber[] =>
  m.sampleRateHz === 0
    ? []
    : [
        { name: 'clipped', text: percent(m.clippedShare, m.clippedShare > 0 ? 3 : 0), value: m.clippedShare, matters: 1e-4 },
        { name: 'length', text: duration(m.durationS), value: m.durationS, note: m.notes.durationS, matters: Number.POSITIVE_INFINITY },
        {
          name: 'sample rate',
          text: `${Number((m.sampleRateHz / 1000).toFixed(3))} kHz`,
          value: m.sampleRateHz,
          matters: Number.POSITIVE_INFINITY,
        },
      ];

export function reportNumbers(m: Measurement): ReportNumber[] {
  const { notes } = m;
  switch (m.kind) {
    case 'voice':
      return [
        db('speech level', m.activeSpeechLevelDb, notes.activeSpeechLevelDb),
        {
          name: 'loudness',
          text: m.loudnessLufs === null ? NOT_MEASURABLE : `${fixed(m.loudnessLufs, 1)} LUFS`,
          value: m.loudnessLufs,
          note: notes.loudnessLufs,
          matters: 1,
        },
        db('peak-to-average', m.peakToAverageDb, notes.peakToAverageDb),
        db('noise floor', m.noiseFloorDb, notes.noiseFloorDb, 3),
        db('signal-to-noise (speech)', m.snrDb, notes.snrDb, 3),
        { name: 'pitch', text: hz(m.pitchHz), value: m.pitchHz, note: notes.pitchHz, matters: 20 },
        { name: '99 % bandwidth', text: range(m.passbandHz), value: width(m.passbandHz), note: notes.passbandHz, matters: 150 },
        {
          name: 'tilt',
          text: m.tiltDbPerOctave === null ? NOT_MEASURABLE : `${fixed(m.tiltDbPerOctave, 1)} dB/oct`,
          value: m.tiltDbPerOctave,
          note: notes.tiltDbPerOctave,
          matters: 1,
        },
        {
          name: 'speech activity',
          text: m.activityFactor === null ? NOT_MEASURABLE : percent(m.activityFactor),
          value: m.activityFactor,
          note: notes.activityFactor,
          matters: 0.15,
        },
        db('level spread', m.levelSpreadDb ?? null, notes.levelSpreadDb),
        ...common(m),
      ];
    case 'ssb':
      return [
        {
          name: 'occupied bandwidth',
          text: hz(m.occupiedBandwidthHz),
          value: m.occupiedBandwidthHz,
          note: notes.occupiedBandwidthHz,
          matters: 150,
        },
        { name: 'audio 99 % bandwidth', text: range(m.passbandHz), value: width(m.passbandHz), note: notes.passbandHz, matters: 150 },
        db('opposite sideband', m.oppositeSidebandDb, notes.oppositeSidebandDb, 3),
        db('carrier', m.carrierDb, notes.carrierDb, 3),
        db('carrier re PEP', m.carrierPepDb ?? null, notes.carrierPepDb, 3),
        db('adjacent channel (3.3–6.3 kHz)', m.adjacentDb.wantedSide, notes['adjacentDb.wantedSide'] ?? notes.adjacentDb, 3),
        db('adjacent channel, other side', m.adjacentDb.otherSide, notes['adjacentDb.otherSide'] ?? notes.adjacentDb, 3),
        db('peak-to-average', m.peakToAverageDb, notes.peakToAverageDb),
        { name: 'within 40 dB of the peak', text: range(m.extentHz), value: width(m.extentHz), note: notes.extentHz, matters: 300 },
        ...common(m),
      ];
    case 'am':
      return [
        {
          name: 'modulation, up (held peak)',
          text: share(m.modulationDepth.positive),
          value: m.modulationDepth.positive,
          note: notes.modulationDepth,
          matters: 0.05,
        },
        {
          name: 'modulation, down (held peak)',
          text: share(m.modulationDepth.negative),
          value: m.modulationDepth.negative,
          note: notes.modulationDepth,
          matters: 0.05,
        },
        {
          name: 'modulation, 99.9 percentile',
          text: `${share(m.modulationDepthUsual?.positive ?? null)} up, ${share(m.modulationDepthUsual?.negative ?? null)} down`,
          value: m.modulationDepthUsual?.positive ?? null,
          note: notes.modulationDepthUsual,
          matters: 0.05,
        },
        { name: 'audio reaches', text: hz(m.audioBandwidthHz), value: m.audioBandwidthHz, note: notes.audioBandwidthHz, matters: 200 },
        {
          name: 'occupied bandwidth',
          text: hz(m.occupiedBandwidthHz),
          value: m.occupiedBandwidthHz,
          note: notes.occupiedBandwidthHz,
          matters: 300,
        },
        {
          name: 'carrier from the centre',
          text: hz(m.carrierOffsetHz, 1),
          value: m.carrierOffsetHz,
          note: notes.carrierOffsetHz,
          matters: 50,
        },
        ...common(m),
      ];
    case 'fm':
      return [
        {
          name: 'peak deviation (held)',
          text: hz(m.peakDeviationHz),
          value: m.peakDeviationHz,
          note: notes.peakDeviationHz,
          matters: 300,
        },
        {
          name: 'deviation, 99.9 percentile',
          text: hz(m.peakDeviationUsualHz ?? null),
          value: m.peakDeviationUsualHz ?? null,
          note: notes.peakDeviationUsualHz,
          matters: 300,
        },
        {
          name: 'peak deviation of the voice',
          text: hz(m.voicePeakDeviationHz ?? null),
          value: m.voicePeakDeviationHz ?? null,
          note: notes.voicePeakDeviationHz,
          matters: 300,
        },
        { name: 'RMS deviation', text: hz(m.rmsDeviationHz), value: m.rmsDeviationHz, note: notes.rmsDeviationHz, matters: 200 },
        { name: 'audio reaches', text: hz(m.audioBandwidthHz), value: m.audioBandwidthHz, note: notes.audioBandwidthHz, matters: 200 },
        {
          name: 'Carson bandwidth',
          text: hz(m.carsonBandwidthHz),
          value: m.carsonBandwidthHz,
          note: notes.carsonBandwidthHz,
          matters: 500,
        },
        {
          name: 'occupied bandwidth',
          text: hz(m.occupiedBandwidthHz),
          value: m.occupiedBandwidthHz,
          note: notes.occupiedBandwidthHz,
          matters: 500,
        },
        { name: 'carrier from the centre', text: hz(m.offsetHz), value: m.offsetHz, note: notes.offsetHz, matters: 200 },
        { name: 'CTCSS tone', text: m.ctcssHz === null ? 'none' : hz(m.ctcssHz, 1), value: m.ctcssHz, matters: 0.5 },
        ...common(m),
      ];
    case 'two-tone':
      return [
        db('third order re PEP', m.imd3PepDb, notes.imd3PepDb, 2),
        db('third order re a tone', m.imd3Db, undefined, 2),
        db('fifth order re PEP', m.imd5PepDb, notes.imd5PepDb, 2),
        db('fifth order re a tone', m.imd5Db, undefined, 2),
        { name: 'tones', text: range(m.tonesHz), value: width(m.tonesHz), note: notes.tonesHz, matters: 50 },
        ...common(m),
      ];
    case 'response':
      return [
        { name: '−6 dB edges', text: range(m.passbandHz), value: width(m.passbandHz), note: notes.passbandHz, matters: 100 },
        db('ripple 500–2000 Hz', m.rippleDb, notes.rippleDb),
        db('harmonics', m.distortionDb, notes.distortionDb, 3),
        { name: 'mistuned by', text: hz(m.mistuneHz, 1), value: m.mistuneHz, note: notes.mistuneHz, matters: Number.POSITIVE_INFINITY },
        {
          name: 'clock error',
          text: m.clockPpm === null ? NOT_MEASURABLE : `${fixed(m.clockPpm, 1)} ppm`,
          value: m.clockPpm,
          note: notes.clockPpm,
          matters: Number.POSITIVE_INFINITY,
        },
        db('level drift', m.levelDriftDb, notes.levelDriftDb, 0.5),
        ...common(m),
      ];
    case 'power':
      return [
        { name: 'PEP', text: measured(m.pepW, 3, 'W'), value: m.pepW, note: notes.pepW, matters: 0.1 * (m.pepW ?? 0) },
        { name: 'PEP in dBm', text: m.pepDbm === null ? NOT_MEASURABLE : `${fixed(m.pepDbm, 2)} dBm`, value: m.pepDbm, matters: 0.5 },
        { name: 'mean power', text: measured(m.meanW, 3, 'W'), value: m.meanW, matters: 0.1 * (m.meanW ?? 0) },
        db('PEP over mean', m.pepToMeanDb, undefined, 0.5),
        { name: 'crest', text: measured(m.crestV, 4, 'V'), value: m.crestV, matters: 0.05 * (m.crestV ?? 0) },
        { name: 'across', text: `${m.loadOhms} Ω`, value: m.loadOhms, matters: 0.1 },
        {
          name: 'length',
          text: m.durationS < 1 ? `${Number((1000 * m.durationS).toPrecision(3))} ms` : duration(m.durationS),
          value: m.durationS,
          matters: Number.POSITIVE_INFINITY,
        },
      ];
  }
}
