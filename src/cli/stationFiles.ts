/** Rig profiles and cards that commands name. */
import { readJson } from '../core/formats/json.ts';
import type { CardFile } from '../core/station/card.ts';
import type { RigProfile } from '../core/station/rig.ts';
import { parseCard, parseRig } from '../core/station/validate.ts';
import { about, readText } from './inputs.ts';

export const readRig = (path: string): Promise<RigProfile> => about(path, async () => parseRig(readJson(await readText(path))));

export const readCard = (path: string, rig: RigProfile): Promise<CardFile> =>
  about(path, async () => parseCard(readJson(await readText(path)), rig));
