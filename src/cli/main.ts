/** dialtune: the core on the command line. One clear line on stderr when something is wrong. */
import { CORE_VERSION } from '@/core/measure/index.ts';
import { UsageError } from './errors.ts';

type Command = (args: readonly string[]) => Promise<{ json: object; text: string }>;

/** Each is loaded when it is called, so that the others cost nothing. */
const COMMANDS: Record<string, () => Promise<Command>> = {
  measure: async () => (await import('./measure.ts')).measure,
  fit: async () => (await import('./fit.ts')).fit,
  sheet: async () => (await import('./sheet.ts')).sheet,
  line: async () => (await import('./line.ts')).line,
  report: async () => (await import('./report.ts')).report,
  next: async () => (await import('./next.ts')).next,
  advise: async () => (await import('./advise.ts')).advise,
  tone: async () => (await import('./tone.ts')).tone,
  simulate: async () => (await import('./simulate.ts')).simulate,
  reach: async () => (await import('./reach.ts')).reach,
  convert: async () => (await import('./convert.ts')).convert,
};

const PURPOSES = 'natural|balanced|pile-up|contest';

/** How each command is called, and what it does; FILE is explained with measure. */
const USAGES: Record<string, { readonly calls: readonly string[]; readonly about: string }> = {
  measure: {
    calls: [
      'measure FILE [--as voice|response] [--channel N] [--reference FILE] [--subtract CURVE.csv] [--json]',
      'measure FILE --as ssb|am|fm|two-tone [--carrier HZ] [--sideband usb|lsb] [--swap] [--reference FILE] [--json]',
      'measure TRACE.csv --as power [--load OHMS] [--json]',
    ],
    about: `The numbers of one recording. FILE: WAV (two channels are I and Q for the second form) or SigMF (.sigmf-meta beside
.sigmf-data); for response also a curve as CSV (Hz, dB); TRACE: time in seconds, volts.
--carrier: offset of the suppressed carrier (ssb, default 0) or of the carrier (am, fm: found when not given) from the
file's centre. --swap: I and Q change places.`,
  },
  fit: {
    calls: [
      `fit --rig RIG.json --voice VOICE.wav [--voice ANOTHER.wav ...] [--mic CURVE.csv] --purpose ${PURPOSES} [--card CARD.json] [--json]`,
    ],
    about: `Which equalizer dials to set to what. --voice: receiver audio of an over made with CARD (default: the factory settings);
several overs of one voice, microphone and receiver make the estimate surer. --mic: response of a microphone that the
recording has not been through.`,
  },
  sheet: {
    calls: ['sheet --rig RIG.json --card CARD.json [--from CARD.json] [--json]'],
    about: 'The dials to set, in menu order; with --from only those that differ.',
  },
  line: {
    calls: ['line "TEXT" --rig RIG.json --card CARD.json [--json]'],
    about: `Advice as it is said, as dials: "2400 +3", "mic down to 30", "a bit more top", "everything below 300 flat",
"41-49: 150 6 4 ...", and meter readings: "alc point four". What is not understood changes nothing.`,
  },
  report: {
    calls: ['report "TEXT" [--json]'],
    about: 'What another station said, as signal report, remarks (is, is not, less, more) and the advice in it.',
  },
  next: {
    calls: ['next --history HISTORY.json [--json]'],
    about: `The next move from everything known so far: overs of one radio with their cards, meters and captures, oldest first. File paths
are relative to the history. The same history gives the same answer.`,
  },
  advise: {
    calls: ['advise --station STATION.json [--voice VOICE.wav ...] [--overs N] [--iq] [--tap second|remote|tap|monitor] [--json]'],
    about: `The next move in a loop on a simulated station, which sees meters and captures and never the truth; with every over, and how the
station really stands before and after. --iq: I/Q of each over as well.`,
  },
  tone: {
    calls: ['tone sweep|two-tone|stepped|pink|speech-noise --out FILE.wav [--seconds N] [--level DB] [--rate HZ] [--json]'],
    about: `Test signals to play into the mic socket. Two tones and sweeps are continuous duty: use a dummy load, reduce power, keep
them short, and watch temperature and SWR.`,
  },
  simulate: {
    calls: [
      'simulate --station STATION.json [--voice VOICE.wav] --out OVER.wav [--iq] [--receiver NAME] [--json]',
      'simulate --station STATION.json [--voice VOICE.wav] --out OVER.wav --transmitter [--json]',
    ],
    about: `An over of a simulated station: what a receiver gives, or with --iq its I and Q.
--transmitter: its stages alone, from equalizer to amplifier, without microphone, room, path and receiver.`,
  },
  reach: {
    calls: ['reach --station STATION.json [--voice VOICE.wav] [--card CARD.json] [--json]'],
    about: 'How much weaker the signal may be and stay readable, and how natural it sounds, against the flat voice.',
  },
  convert: {
    calls: ['convert FILE.wav FILE.sigmf-meta [--json]', 'convert FILE.sigmf-meta FILE.wav [--json]'],
    about: 'WAV to SigMF and back.',
  },
};

const callsOf = (command: string): string[] => USAGES[command].calls.map((call) => `  dialtune ${call}`);
const USAGE = [
  'usage:',
  ...Object.keys(USAGES).flatMap(callsOf),
  '  dialtune COMMAND --help',
  '  dialtune --version',
  '',
  'Exit: 0 done, 1 unreadable input, 2 bad usage. With --json one JSON object on stdout.',
].join('\n');

async function run([command, ...args]: readonly string[]): Promise<number> {
  if (command === '--help' || command === 'help') {
    process.stdout.write(`${USAGE}\n`);
    return 0;
  }
  try {
    if (command === '--version') {
      process.stdout.write(`dialtune ${CORE_VERSION}\n`);
      return 0;
    }
    if (command === undefined) throw new UsageError(`which command? ${Object.keys(COMMANDS).join(', ')}; --help tells more`);
    if (!Object.hasOwn(COMMANDS, command)) throw new UsageError(`there is no command "${command}"`);
    if (args.includes('--help')) {
      process.stdout.write(`usage:\n${callsOf(command).join('\n')}\n\n${USAGES[command].about}\n`);
      return 0;
    }
    const work = await COMMANDS[command]();
    const answer = await work(args);
    process.stdout.write(`${args.includes('--json') ? JSON.stringify(answer.json) : answer.text}\n`);
    return 0;
  } catch (error) {
    const message = error instanceof Error ? error.message : String(error);
    process.stderr.write(`dialtune: ${message.replaceAll(/\s*\n\s*/g, ' ')}\n`);
    return error instanceof UsageError ? 2 : 1;
  }
}

process.stdout.on('error', () => process.exit(0));
void run(process.argv.slice(2)).then((code) => {
  process.exitCode = code;
});
