/** dialtune measure: the numbers of one file. */

import type { VoiceMeasurement } from '../core/measure/measurement.ts';
import { measureVoice } from '../core/measure/voice.ts';
import { InputError, UsageError } from './errors.ts';
import { openVoice } from './inputs.ts';
import { oneOf, optional, parse } from './options.ts';

const KINDS = ['voice', 'ssb', 'am', 'fm', 'two-tone', 'response'] as const;

export async function measure(args: readonly string[]): Promise<{ json: object; text: string }> {
  const parsed = parse(args, ['as', 'carrier', 'sideband', 'reference', 'channel']);
  if (parsed.files.length !== 1) throw new UsageError('measure takes one file');
  const kind = oneOf('as', optional(parsed, 'as') ?? 'voice', KINDS);
  if (kind !== 'voice') throw new UsageError(`--as ${kind} can't be measured yet; --as voice can`);
  for (const name of ['carrier', 'sideband'] as const) {
    if (optional(parsed, name) !== undefined) throw new UsageError(`--${name} does not go with --as voice`);
  }
  const channelText = optional(parsed, 'channel');
  if (channelText !== undefined && !/^[1-9]\d*$/.test(channelText)) throw new UsageError('--channel is counted from 1');
  const channel = channelText === undefined ? undefined : Number(channelText);
  const source = await openVoice(parsed.files[0]);
  if (channel !== undefined && channel > source.channels) {
    throw new InputError(`${parsed.files[0]}: channel ${channel} does not exist; this file has ${source.channels}.`);
  }
  const referencePath = optional(parsed, 'reference');
  const reference = referencePath === undefined ? undefined : await openVoice(referencePath);
  const { measurement } = await measureVoice(source, { channel, reference });
  return { json: measurement, text: describe(measurement) };
}

const show = (value: number | null, digits: number, unit: string): string =>
  value === null ? 'not to be had' : `${value.toFixed(digits).replace('-', '−')}${unit}`;

function describe(m: VoiceMeasurement): string {
  const [low, high] = m.passbandHz ?? [null, null];
  const rows: [string, string][] = [
    ['length', `${show(m.durationS, 2, ' s')} at ${m.sampleRateHz} Hz`],
    ['active speech level', show(m.activeSpeechLevelDb, 2, ' dB')],
    ['activity', m.activityFactor === null ? 'not to be had' : show(100 * m.activityFactor, 1, ' %')],
    ['loudness', show(m.loudnessLufs, 2, ' LUFS')],
    ['peak to average', show(m.peakToAverageDb, 2, ' dB')],
    ['clipped', show(100 * m.clippedShare, 4, ' %')],
    ['noise floor', show(m.noiseFloorDb, 1, ' dB')],
    ['speech over noise', show(m.snrDb, 1, ' dB')],
    ['pitch', show(m.pitchHz, 0, ' Hz')],
    ['tilt', show(m.tiltDbPerOctave, 2, ' dB an octave')],
    ['passband', `${show(low, 0, '')} to ${show(high, 0, ' Hz')}`],
    ['third octaves', m.thirdOctaveDb.map(([hz, db]) => `${Math.round(hz)} ${show(db, 1, '')}`).join(', ')],
  ];
  return [
    ...rows.map(([name, value]) => `${name.padEnd(20)} ${value}`),
    ...m.findings.map((f) => `${f.severity.padEnd(5)} ${f.code}: ${f.text} (${f.evidence})`),
    ...Object.entries(m.notes).map(([key, note]) => `note on ${key}: ${note}`),
  ].join('\n');
}
