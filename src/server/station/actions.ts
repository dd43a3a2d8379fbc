'use server';
/** What pages change about the station: its people, radios, microphones and receivers. */
import { parseMicrophone, parseRig } from '@/core/rig/index.ts';
import { readJson } from '@/core/schema/index.ts';
import type { Answer } from '../requests/answer.ts';
import { change } from '../requests/change.ts';
import { keepDistanceUnit, keepWho, whoIsThere } from '../requests/preferences.ts';
import type { RequestOf } from '../requests/requests.ts';
import { tickDials } from './radioState.ts';
import { type KeptRig, keepRig, takeMeasuredEdges } from './rigs.ts';
import { keepMicrophone, keepOperator, keepReceiver, retirePart } from './station.ts';
import { clearVoiceMemory, recordVoiceMemory } from './voiceMemories.ts';

export const chooseDistance = async (input: RequestOf<'distance'>) => change('distance', input, ({ unit }) => keepDistanceUnit(unit));
export const chooseWho = async (input: RequestOf<'by'>) => change('by', input, ({ by }) => keepWho(by));
export const saveOperator = async (input: RequestOf<'operator'>) => change('operator', input, keepOperator);
export const saveReceiver = async (input: RequestOf<'receiver'>) => change('receiver', input, keepReceiver);
export const saveMicrophone = async (input: RequestOf<'file'>) =>
  change('file', input, ({ id, text, base }) => keepMicrophone({ id, profile: parseMicrophone(readJson(text)), base }));
export const saveRig = async (input: RequestOf<'file'>): Promise<Answer<KeptRig>> =>
  change('file', input, async ({ id, text, base }) => keepRig({ id, profile: parseRig(readJson(text)), base, by: await whoIsThere() }));
export const takeEdges = async (input: RequestOf<'overId'>): Promise<Answer<KeptRig>> =>
  change('overId', input, async ({ overId }) => takeMeasuredEdges(overId, await whoIsThere()));
export const retire = async (input: RequestOf<'retire'>) =>
  change('retire', input, ({ kind, id, isRetired }) => retirePart(kind, id, isRetired));
export const tick = async (input: RequestOf<'ticks'>) => change('ticks', input, ({ ticks }) => tickDials(ticks));
export const recordMemory = async (input: RequestOf<'memory'>) => change('memory', input, recordVoiceMemory);
export const clearMemory = async (input: RequestOf<'clearMemory'>) =>
  change('clearMemory', input, ({ rigId, slot }) => clearVoiceMemory(rigId, slot));
