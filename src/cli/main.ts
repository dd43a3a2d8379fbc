/** dialtune: the core on the command line. One clear line on stderr when something is wrong. */
import { UsageError } from './errors.ts';

type Command = (args: readonly string[]) => Promise<{ json: object; text: string }>;

/** Each is loaded when it is called, so that the others cost nothing. */
const COMMANDS: Record<string, () => Promise<Command>> = {
  measure: async () => (await import('./measure.ts')).measure,
  fit: async () => (await import('./fit.ts')).fit,
  sheet: async () => (await import('./sheet.ts')).sheet,
  tone: async () => (await import('./tone.ts')).tone,
  simulate: async () => (await import('./simulate.ts')).simulate,
  reach: async () => (await import('./reach.ts')).reach,
  convert: async () => (await import('./convert.ts')).convert,
};
const NOT_YET = ['advise'];
const USAGE = `usage:
  dialtune measure FILE [--as voice|response] [--channel N] [--reference FILE] [--subtract CURVE.csv] [--json]
  dialtune measure FILE --as ssb|am|fm|two-tone [--carrier HZ] [--sideband usb|lsb] [--swap] [--reference FILE] [--json]
  dialtune measure TRACE.csv --as power [--load OHMS] [--json]
      FILE: WAV (two channels are I and Q for the second form) or SigMF (.sigmf-meta beside .sigmf-data);
      for response also a curve as CSV (Hz, dB); TRACE: time in seconds, volts
  dialtune fit   --rig RIG.json --voice VOICE.wav [--mic CURVE.csv] --purpose natural|balanced|pile-up|contest [--card CARD.json] [--json]
  dialtune sheet --rig RIG.json --card CARD.json [--from CARD.json] [--json]
  dialtune tone  sweep|two-tone|stepped|pink|speech-noise --out FILE.wav [--seconds N] [--level DB] [--rate HZ] [--json]
  dialtune simulate --station STATION.json [--voice VOICE.wav] --out OVER.wav [--iq] [--receiver NAME] [--json]
  dialtune reach --station STATION.json [--voice VOICE.wav] [--card CARD.json] [--json]
  dialtune convert FILE.wav FILE.sigmf-meta | FILE.sigmf-meta FILE.wav [--json]`;

async function run([command, ...args]: readonly string[]): Promise<number> {
  if (command === '--help' || command === 'help') {
    process.stdout.write(`${USAGE}\n`);
    return 0;
  }
  try {
    if (command === undefined) throw new UsageError(`which command? ${Object.keys(COMMANDS).join(', ')}; --help tells more`);
    if (NOT_YET.includes(command)) throw new UsageError(`"${command}" is not built yet`);
    if (!Object.hasOwn(COMMANDS, command)) throw new UsageError(`there is no command "${command}"`);
    const work = await COMMANDS[command]();
    const { json, text } = await work(args);
    process.stdout.write(args.includes('--json') ? `${JSON.stringify(json)}\n` : `${text}\n`);
    return 0;
  } catch (error) {
    const message = error instanceof Error ? error.message : String(error);
    process.stderr.write(`dialtune: ${message.replaceAll(/\s*\n\s*/g, ' ')}\n`);
    return error instanceof UsageError ? 2 : 1;
  }
}

process.stdout.on('error', () => process.exit(0));
process.exitCode = await run(process.argv.slice(2));
