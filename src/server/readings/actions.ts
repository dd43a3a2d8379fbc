'use server';
/** What pages do with meter readings. */
import { change } from '../requests/change.ts';
import type { RequestOf } from '../requests/requests.ts';
import { addReading } from './readings.ts';

export const saveReading = async (input: RequestOf<'reading'>) => change('reading', input, (reading) => addReading(reading));
