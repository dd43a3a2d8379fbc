'use client';
/** What the meters show with the card as it stands: typed as they are marked, saved as a reading. */
import { useState } from 'react';
import styled from 'styled-components';
import { noteReading } from '@/client/noteReading.ts';
import { useDraft } from '@/client/useDraft.ts';
import { useForm } from '@/client/useForm.ts';
import { SAID, SAID_LABELS, type Said } from '@/core/advice/index.ts';
import { alcError, fullScale, hasAlc, parseAlc, parseReading } from '@/core/rig/index.ts';
import type { CardView } from '@/server/cards/cards.ts';

import { Button } from '../parts/Button.tsx';
import { RefusalNotice } from '../parts/DraftNotice.tsx';
import { Field } from '../parts/Field.tsx';
import { Picker } from '../parts/Picker.tsx';

const Row = styled.form`display: flex; flex-wrap: wrap; gap: 10px 14px; align-items: end; margin: 6px 0 10px; label + * { max-width: 110px; }`;

const EMPTY = { alc: '', compression: '', power: '', swr: '', adjacent: '', said: 'talk' as Said };

interface ReadingFormProps {
  readonly card: CardView;
  /** The over that it was read on, where the card as it stands has one. */
  readonly overId: number | null;
  /** What is usually said while the meter is read. */
  readonly said?: Said;
  /** Whether the next channel is asked for as well, where the mode has one. */
  readonly hasAnalyser?: boolean;
}

export function ReadingForm({ card, overId, said: usual = 'talk', hasAnalyser = true }: ReadingFormProps) {
  const [newest] = card.revisions;
  const full = fullScale(card.rig.profile.alc);
  const form = useDraft(`reading ${card.id}`, { ...EMPTY, said: usual });
  const [isKept, setIsKept] = useState(false);
  const { alc, compression, power, swr, adjacent = '', said } = form.value;
  // On FM neither ALC nor compression has a say.
  const isAlcRead = hasAlc(card);
  const hasNextChannel = hasAnalyser && (card.mode === 'usb' || card.mode === 'lsb');
  const read = {
    alc: parseAlc(isAlcRead ? alc : '', full),
    compressionDb: parseReading(isAlcRead ? compression : '', 60, true),
    powerW: parseReading(power, 5000),
    swr: swrOf(swr),
    adjacentDb: adjacentOf(hasNextChannel ? adjacent : ''),
  };
  const numbers = Object.values(read);
  const isGood = numbers.every((each) => each !== undefined) && numbers.some((each) => each !== null);
  const { refusal, isSaving, submit } = useForm(
    form,
    async () =>
      noteReading({
        cardRevisionId: newest.id,
        overId,
        said,
        alc: read.alc ?? null,
        compressionDb: read.compressionDb ?? null,
        powerW: read.powerW ?? null,
        swr: read.swr ?? null,
        adjacentDb: read.adjacentDb ?? null,
      }),
    () => {
      form.discard();
      setIsKept(true);
    },
  );
  const set = (change: Partial<typeof EMPTY>) => {
    setIsKept(false);
    form.set(change);
  };
  return (
    <>
      <Row
        aria-label="New reading"
        onSubmit={(event) => {
          event.preventDefault();
          if (isGood) submit();
        }}
      >
        {isAlcRead && (
          <>
            <Field
              label={`ALC, 0 to ${full}`}
              value={alc}
              onChange={(text) => set({ alc: text })}
              inputMode="decimal"
              error={read.alc === undefined ? alcError(full) : undefined}
            />
            <Picker
              label="Read on"
              choices={SAID.map((id) => ({ id, text: SAID_LABELS[id] }))}
              value={said}
              onChange={(id) => set({ said: id as Said })}
            />
            <Field
              label="Compression, dB"
              value={compression}
              onChange={(text) => set({ compression: text })}
              inputMode="decimal"
              error={read.compressionDb === undefined ? '0 to 60 dB.' : undefined}
            />
          </>
        )}
        <Field
          label="Power, W"
          value={power}
          onChange={(text) => set({ power: text })}
          inputMode="decimal"
          error={read.powerW === undefined ? 'Up to 5000 W.' : undefined}
        />
        <Field
          label="SWR"
          value={swr}
          onChange={(text) => set({ swr: text })}
          inputMode="decimal"
          error={read.swr === undefined ? '1 to 100.' : undefined}
        />
        {hasNextChannel && (
          <Field
            label="Next channel, dB"
            value={adjacent}
            onChange={(text) => set({ adjacent: text })}
            inputMode="text"
            error={read.adjacentDb === undefined ? '−120 to 0 dB re the voice, by an analyser.' : undefined}
          />
        )}
        <Button type="submit" isDisabled={!isGood || isSaving}>
          Save reading
        </Button>
        {isKept && <span role="status">Saved with revision {newest.number}.</span>}
      </Row>
      <RefusalNotice refusal={refusal} onForce={submit} />
    </>
  );
}

/** It lies below the voice, with a sign or without. */
const adjacentOf = (text: string): number | null | undefined => {
  const value = parseReading(text.trim().replace(/^[-−]/, ''), 120, true);
  return typeof value === 'number' ? -value : value;
};

const swrOf = (text: string): number | null | undefined => {
  const value = parseReading(text, 100);
  return typeof value === 'number' && value < 1 ? undefined : value;
};
