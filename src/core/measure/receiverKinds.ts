/** Where a signal can be judged, and how far that can be trusted; the best evidence first (common practice). */
export const RECEIVER_KINDS = [
  { id: 'local', text: 'second receiver nearby', note: 'its own small antenna; keep its gain down' },
  { id: 'remote', text: 'remote receiver', note: 'path and fading are in it' },
  { id: 'in-line', text: 'tap in the antenna line', note: 'misses faults of the antenna' },
  { id: 'monitor', text: "the radio's own monitor", note: 'taps the audio early: not the transmitted signal' },
] as const;
/** Whether a receiver of that kind hears what left the antenna: a tap and the monitor come before it. */
export const isOffTheAir = (kind: string): boolean => kind === 'local' || kind === 'remote';
/** One of them. */
export type ReceiverKind = (typeof RECEIVER_KINDS)[number]['id'];
/** Its name in words. */
export const receiverKindText = (kind: string) => RECEIVER_KINDS.find(({ id }) => id === kind)?.text ?? kind;
