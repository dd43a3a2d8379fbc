/** dialtune report: what another station said, read. */
import { LONGEST_REPORT, readReport } from '@/core/language/index.ts';
import { InputError } from './errors.ts';
import { splitText } from './line.ts';
import { noFiles, parse } from './options.ts';

export async function report(args: readonly string[]): Promise<{ json: object; text: string }> {
  const { text, rest } = splitText(args, []);
  noFiles(parse(rest, []));
  if (text.trim() === '') throw new InputError('The text is empty.');
  if (text.length > LONGEST_REPORT) throw new InputError(`The text is too long: ${LONGEST_REPORT} characters are the most.`);
  const read = readReport(text);
  const { signal, remarks, advice } = read;
  const lines = [
    ...(signal
      ? [
          `Signal: readability ${signal.readability ?? '?'}, strength ${signal.strength ?? '?'}${signal.overS9Db === null ? '' : ` plus ${signal.overS9Db} dB`}`,
        ]
      : []),
    ...remarks.map(({ code, sense, degree, about }) => `${code}: ${sense}, ${degree}, about the ${about}`),
    ...advice.map(({ line }) => `advice: ${line}`),
  ];
  return { json: read, text: lines.length > 0 ? lines.join('\n') : 'Nothing in it is a remark or advice that is known here.' };
}
