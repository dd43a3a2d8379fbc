'use client';
/** Begins a check of another station: call, name, and its radio in a few words. */
import { useRouter } from 'next/navigation';
import styled from 'styled-components';
import { useDraft } from '@/client/useDraft.ts';
import { useForm } from '@/client/useForm.ts';
import { PATH_LABELS, REPORT_PATHS, type ReportPath } from '@/core/advice/index.ts';
import {
  GUEST_SHAPE_LABELS,
  GUEST_SHAPES,
  type GuestShape,
  MODE_LABELS,
  MODES,
  MOST_BANDS,
  type Mode,
  parseFrequencies,
} from '@/core/rig/index.ts';
import { beginGuestCheck } from '@/server/aircheck/actions.ts';
import { Button } from '@/ui/parts/Button.tsx';
import { RefusalNotice } from '@/ui/parts/DraftNotice.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';

const Row = styled.form`display: flex; flex-wrap: wrap; gap: 12px 16px; align-items: end; margin: 12px 0 18px;`;
const MOST_REACH = 30;
const whole = (text: string, most: number): number | undefined => {
  const value = Number(text);
  return /^\d+$/.test(text.trim()) && value >= 1 && value <= most ? value : undefined;
};

export function GuestForm() {
  const router = useRouter();
  const form = useDraft('new guest check', {
    callsign: '',
    name: '',
    path: 'unknown' as ReportPath,
    mode: 'usb' as Mode,
    shape: 'graphic' as GuestShape,
    frequencies: '200 400 800 1.6k 2.4k',
    bands: '3',
    reach: '12',
  });
  const { callsign, name, path, mode, shape, frequencies, bands, reach } = form.value;
  const isCall = /^[A-Za-z0-9/]{3,20}$/.test(callsign.trim());
  const [bandCount, steps] = [whole(bands, MOST_BANDS.parametric), whole(reach, MOST_REACH)];
  const isRead = shape !== 'graphic' || parseFrequencies(frequencies) !== null;
  const isWhole = isCall && isRead && bandCount !== undefined && steps !== undefined;
  const { refusal, isSaving, submit } = useForm(
    form,
    async () =>
      beginGuestCheck({
        callsign: callsign.trim(),
        name: name.trim(),
        path,
        mode,
        shape,
        frequencies,
        bands: bandCount ?? 3,
        reach: steps ?? 12,
      }),
    (id) => {
      form.discard();
      router.push(`/aircheck/${id}`);
    },
  );
  return (
    <section>
      <h2>I check another station</h2>
      <p className="soft">
        Type where their dials stand as they tell you, and record them on your receivers: the advice comes in words to be spoken, relative
        to what their dials show.
      </p>
      <Row
        aria-label="Check another station"
        onSubmit={(event) => {
          event.preventDefault();
          if (isWhole) submit();
        }}
      >
        <Field
          label="Their call"
          value={callsign}
          onChange={(words) => form.set({ callsign: words })}
          maxLength={20}
          error={callsign.trim() !== '' && !isCall ? 'Letters, figures and strokes, three at least.' : undefined}
        />
        <Field label="Name, if told" value={name} onChange={(words) => form.set({ name: words })} maxLength={60} />
        <Picker
          label="Path"
          choices={REPORT_PATHS.map((id) => ({ id, text: PATH_LABELS[id] }))}
          value={path}
          onChange={(id) => form.set({ path: id as ReportPath })}
        />
        <Picker
          label="Mode"
          choices={MODES.map((id) => ({ id, text: MODE_LABELS[id] }))}
          value={mode}
          onChange={(id) => form.set({ mode: id as Mode })}
        />
        <Picker
          label="Their equalizer"
          choices={GUEST_SHAPES.map((id) => ({ id, ...GUEST_SHAPE_LABELS[id] }))}
          value={shape}
          onChange={(id) => form.set({ shape: id as GuestShape })}
        />
        {shape === 'graphic' && (
          <Field
            label="Slider frequencies"
            value={frequencies}
            onChange={(words) => form.set({ frequencies: words })}
            maxLength={300}
            error={isRead ? undefined : 'As 63 125 250 500 1k 2k, each once.'}
          />
        )}
        {shape === 'parametric' && (
          <Field
            label="Bands"
            value={bands}
            onChange={(words) => form.set({ bands: words })}
            error={bandCount === undefined ? `1 to ${MOST_BANDS.parametric}.` : undefined}
          />
        )}
        {shape !== 'none' && (
          <Field
            label="Steps to each side"
            value={reach}
            onChange={(words) => form.set({ reach: words })}
            error={steps === undefined ? `1 to ${MOST_REACH}.` : undefined}
          />
        )}
        <Button type="submit" primary isDisabled={!isWhole || isSaving}>
          Begin
        </Button>
        <RefusalNotice refusal={refusal} onForce={submit} />
      </Row>
    </section>
  );
}
