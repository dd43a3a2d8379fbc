/** dialtune measure: the numbers of one file. */
import { MEASUREMENT_KINDS, type Measurement, measureFile, measureRecording, NotMeasurable, RADIO_KINDS } from '@/core/measure/index.ts';
import { describe } from './describe.ts';
import { InputError, UsageError } from './errors.ts';
import { openFile } from './fileSource.ts';
import { about, isText, readCurve } from './inputs.ts';
import { hertzOf, numberOf, oneOf, optional, parse, wholeOf } from './options.ts';
import { openRecording } from './recording.ts';

/** Which kinds an option goes with. */
const GOES_WITH: Record<string, readonly string[]> = {
  carrier: RADIO_KINDS,
  // A two-tone test has a sideband; it changes nothing of what is measured.
  sideband: ['ssb', 'two-tone'],
  swap: RADIO_KINDS,
  reference: ['voice', 'ssb', 'response'],
  subtract: ['response'],
  channel: ['voice', 'response'],
  load: ['power'],
};

/** What is not printed is not put into words. */
const answer = (measurement: Measurement) => ({
  json: measurement,
  get text() {
    return describe(measurement);
  },
});

export async function measure(args: readonly string[]): Promise<{ json: object; text: string }> {
  const parsed = parse(args, ['as', 'carrier', 'sideband', 'reference', 'channel', 'subtract', 'load'], ['swap']);
  if (parsed.files.length !== 1) throw new UsageError('measure takes one file');
  const kind = oneOf('as', optional(parsed, 'as') ?? 'voice', MEASUREMENT_KINDS);
  for (const [name, kinds] of Object.entries(GOES_WITH)) {
    if (parsed.values[name] !== undefined && !kinds.includes(kind)) throw new UsageError(`--${name} does not go with --as ${kind}`);
  }
  const channel = wholeOf(parsed, 'channel', 1);
  const carrierHz = hertzOf(parsed, 'carrier');
  const sidebandText = optional(parsed, 'sideband');
  const sideband = sidebandText === undefined ? undefined : oneOf('sideband', sidebandText, ['usb', 'lsb'] as const);
  const loadOhms = numberOf(parsed, 'load', [0.1, 10_000]);
  const [path] = parsed.files;
  const curvePath = optional(parsed, 'subtract');
  const subtract = curvePath === undefined ? undefined : [await readCurve(curvePath)];
  if (kind === 'power' || (kind === 'response' && isText(path))) {
    const { measurement } = await about(path, async () => measureFile(kind, await openFile(path), { loadOhms, subtract }));
    return answer(measurement);
  }
  const source = await openRecording(path);
  if (channel !== undefined && channel > source.channels) {
    throw new InputError(`${path}: channel ${channel} does not exist; this file has ${source.channels}.`);
  }
  const referencePath = optional(parsed, 'reference');
  const reference = referencePath === undefined ? undefined : await openRecording(referencePath);
  try {
    const { measurement } = await measureRecording(kind, source, {
      channel,
      carrierHz,
      sideband,
      reference,
      subtract,
      isSwapped: parsed.values.swap === true,
    });
    return answer(measurement);
  } catch (error) {
    if (error instanceof NotMeasurable) throw new InputError(`${path}: ${error.message}`);
    throw error;
  }
}
