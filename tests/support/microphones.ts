/** A small invented microphone for tests. */
import type { Microphone } from '../../src/core/rig/microphone.ts';

export const microphone = (change: Partial<Microphone> = {}): Microphone => ({
  format: 'dialtune-microphone',
  version: 1,
  name: 'Reed',
  kind: 'boom',
  pattern: 'cardioid',
  level: 'medium',
  distanceCm: 6,
  positions: [],
  accessories: [],
  ...change,
});
