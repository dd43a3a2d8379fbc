/** Saves what the meters showed. */

import { saveReading } from '@/server/readings/actions.ts';
import type { Answer } from '@/server/requests/answer.ts';

export const noteReading = async (reading: Parameters<typeof saveReading>[0]): Promise<Answer<void>> => saveReading(reading);
