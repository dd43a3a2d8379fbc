/** dialtune: the core on the command line. One clear line on stderr when something is wrong. */
import { UsageError } from './errors.ts';
import { fit } from './fit.ts';
import { measure } from './measure.ts';
import { sheet } from './sheet.ts';

const COMMANDS = { measure, fit, sheet };
const NOT_YET = ['simulate', 'reach', 'advise', 'tone'];
const USAGE = `usage:
  dialtune measure FILE [--as voice] [--channel N] [--reference FILE] [--json]
  dialtune fit   --rig RIG.json --voice VOICE.wav [--mic CURVE.csv] --purpose natural|balanced|pile-up|contest [--card CARD.json] [--json]
  dialtune sheet --rig RIG.json --card CARD.json [--from CARD.json] [--json]`;

async function run([command, ...args]: readonly string[]): Promise<number> {
  if (command === '--help' || command === 'help') {
    process.stdout.write(`${USAGE}\n`);
    return 0;
  }
  try {
    if (command === undefined) throw new UsageError(`which command? ${Object.keys(COMMANDS).join(', ')}; --help tells more`);
    if (NOT_YET.includes(command)) throw new UsageError(`"${command}" is not built yet`);
    if (!Object.hasOwn(COMMANDS, command)) throw new UsageError(`there is no command "${command}"`);
    const { json, text } = await COMMANDS[command as keyof typeof COMMANDS](args);
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
