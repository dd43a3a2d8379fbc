/** What to mind about a line that is understood. */
import { type Card, compareMenu, effective, nameOf, type RigProfile } from '../rig/index.ts';
import type { Clause } from './clause.ts';
import { liveBands } from './dialNamed.ts';
import type { LineMove } from './line.ts';

/** A list in menu order that leaves one out: somebody may have skipped a line on paper. */
export function skipped(rig: RigProfile, clauses: readonly Clause[]): string[] {
  const listed = clauses.flatMap(({ targets }) =>
    targets.flatMap((target) => (target.kind === 'dial' && target.isAddress ? [target.dial] : [])),
  );
  if (listed.length < 3) return [];
  const menu = rig.dials.filter((dial) => dial.menu !== '').sort(compareMenu);
  return listed.slice(1).flatMap((dial, k) => {
    const [a, b] = [menu.indexOf(listed[k]), menu.indexOf(dial)];
    const between = menu.slice(a + 1, b);
    return between.length >= 1 && between.length <= 2 && between.every((each) => each.stage === dial.stage)
      ? [`The list goes from ${listed[k].menu} to ${dial.menu}: ${between.map(nameOf).join(' and ')} left out?`]
      : [];
  });
}

/** With the processor another bank may be in use. */
export function bankWarnings(rig: RigProfile, before: Card, after: Card): string[] {
  const bank = (card: Card) => liveBands(rig, card)[0]?.bank ?? null;
  const [was, is] = [bank(before), bank(after)];
  return was === is || is === null ? [] : [`Bank ${is} of the equalizer is live now, no longer bank ${was}: its own numbers apply.`];
}

/** One sentence a reason, however many dials it stops. */
export function deadWarnings(rig: RigProfile, after: Card, moves: readonly LineMove[]): string[] {
  const states = effective(rig, after).dials;
  const byReason = new Map<string, string[]>();
  for (const { dial } of moves) {
    const state = states.find((each) => each.dial.id === dial.id);
    const reason = state?.dead ? `${state.dead.text} ${state.dead.enable}` : state?.remark;
    if (reason) byReason.set(reason, [...(byReason.get(reason) ?? []), nameOf(dial)]);
  }
  return [...byReason].map(([reason, names]) => `${names.join(', ')}: ${reason}`);
}
