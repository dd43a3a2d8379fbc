/** Rig profiles and cards that commands name. */
import { type CardFile, parseCard, parseRig, type RigProfile } from '@/core/rig/index.ts';
import { readJson } from '@/core/schema/index.ts';
import { about, readText } from './inputs.ts';

export const readRig = (path: string): Promise<RigProfile> => about(path, async () => parseRig(readJson(await readText(path))));

export const readCard = (path: string, rig: RigProfile): Promise<CardFile> =>
  about(path, async () => parseCard(readJson(await readText(path)), rig));
