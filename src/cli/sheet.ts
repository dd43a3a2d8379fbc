/** dialtune sheet: what must change on the radio, in menu order. */
import { factoryCard, nameOf, sheet as sheetOf, valueText } from '@/core/rig/index.ts';
import { noFiles, optional, parse, required } from './options.ts';
import { readCard, readRig } from './stationFiles.ts';

export async function sheet(args: readonly string[]): Promise<{ json: object; text: string }> {
  const parsed = parse(args, ['rig', 'card', 'from']);
  noFiles(parsed);
  const rigPath = required(parsed, 'rig');
  const cardPath = required(parsed, 'card');
  const rig = await readRig(rigPath);
  const card = await readCard(cardPath, rig);
  const fromPath = optional(parsed, 'from');
  const from = fromPath === undefined ? factoryCard(rig, card.mode) : await readCard(fromPath, rig);
  const lines = sheetOf(rig, from, card);
  return {
    json: {
      rig: rig.name,
      mode: card.mode,
      lines: lines.map(({ dial, from: old, to, dead, bank }) => ({
        menu: dial.menu,
        dial: dial.id,
        label: dial.label,
        unit: dial.unit,
        from: old,
        to,
        bank,
        dead: dead && { reason: dead.text, enable: dead.enable },
      })),
    },
    text:
      lines.length === 0
        ? 'Nothing has to change.'
        : lines
            .map(
              ({ dial, from: old, to, dead }) =>
                `[ ] ${nameOf(dial)}: ${old === null ? '?' : valueText(dial, old)} -> ${valueText(dial, to)}${dead ? `  (no effect now: ${dead.text})` : ''}`,
            )
            .join('\n'),
  };
}
