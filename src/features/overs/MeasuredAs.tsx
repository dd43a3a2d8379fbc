'use client';
/** How a capture was measured, and how else it may be. */
import { useState, useTransition } from 'react';
import styled from 'styled-components';
import { asked } from '@/client/asked.ts';
import { KIND_NAMES, KIND_NOTES, MEASUREMENT_KINDS, type MeasurementKind, RADIO_KINDS } from '@/core/measure/index.ts';
import { typedNumber } from '@/core/units/index.ts';
import type { CaptureSettings } from '@/server/db/models.ts';
import { measureCaptureAs } from '@/server/measuring/actions.ts';
import type { OverView } from '@/server/overs/overView.ts';
import { Button } from '@/ui/parts/Button.tsx';
import { Check } from '@/ui/parts/Check.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';

const Sheet = styled.details`
  border-top: 1px solid var(--line); margin-top: 12px; padding-top: 8px;
  summary { cursor: pointer; padding: 4px 0; }
  form { display: flex; gap: 14px; align-items: end; flex-wrap: wrap; margin: 8px 0; }`;

type Captured = OverView & { capture: NonNullable<OverView['capture']> };

/** The settings as they are typed. */
const textsOf = (now: CaptureSettings, kind: MeasurementKind) => ({
  kind,
  carrier: now.carrierHz === undefined ? '' : String(now.carrierHz),
  sideband: now.sideband ?? ('usb' as const),
  isSwapped: now.isSwapped ?? false,
  load: String(now.loadOhms ?? 50),
  reference: now.referenceCaptureId === undefined ? '' : String(now.referenceCaptureId),
  takesOffMic: now.subtractsMicrophone ?? false,
  offCurve: now.subtractCaptureId === undefined ? '' : String(now.subtractCaptureId),
});
type Texts = ReturnType<typeof textsOf>;

const takesReference = (kind: MeasurementKind): boolean => kind === 'voice' || kind === 'ssb' || kind === 'response';

/** What was typed as numbers; undefined where it is none, null where nothing was typed. */
const numbersOf = ({ carrier, load, reference, offCurve }: Texts) => ({
  carrierHz: typedNumber(carrier, -1e7, 1e7),
  loadOhms: typedNumber(load, 0.1, 10_000) ?? undefined,
  referenceId: typedNumber(reference, 1, 4e9),
  offCurveId: typedNumber(offCurve, 1, 4e9),
});

/** Settings of the wanted kind; what belongs to another is left out. */
function settingsOf(texts: Texts, now: CaptureSettings): CaptureSettings {
  const { kind, sideband, isSwapped, takesOffMic } = texts;
  const { carrierHz, loadOhms, referenceId, offCurveId } = numbersOf(texts);
  const isRadio = RADIO_KINDS.includes(kind);
  return {
    ...(now.tunedHz !== undefined && { tunedHz: now.tunedHz }),
    ...(now.remark && { remark: now.remark }),
    ...(isRadio && carrierHz !== null && carrierHz !== undefined && { carrierHz }),
    ...(kind === 'ssb' && { sideband }),
    ...(isRadio && isSwapped && { isSwapped }),
    ...(kind === 'power' && loadOhms && { loadOhms }),
    ...(kind === 'response' && takesOffMic && { subtractsMicrophone: true }),
    ...(kind === 'response' && offCurveId && { subtractCaptureId: offCurveId }),
    ...(takesReference(kind) && referenceId && { referenceCaptureId: referenceId }),
  };
}

export function MeasuredAs({ over }: { over: Captured }) {
  const { settings: now, kind: wasKind } = over.capture;
  const [texts, setTexts] = useState(textsOf(now, wasKind));
  const [message, setMessage] = useState<string | null>(null);
  const [isSending, start] = useTransition();
  const isGood = Object.values(numbersOf(texts)).every((number) => number !== undefined);
  const { kind } = texts;
  const send = () =>
    start(async () => {
      const answer = await asked(measureCaptureAs({ captureId: over.capture.id, kind, settings: settingsOf(texts, now) }));
      setMessage(answer.ok ? 'It is being measured.' : answer.message);
    });
  return (
    <Sheet>
      <summary>How it is measured: {KIND_NAMES[wasKind]}</summary>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (isGood) send();
        }}
      >
        <Picker
          label="As"
          choices={MEASUREMENT_KINDS.map((id) => ({ id, text: KIND_NAMES[id], note: KIND_NOTES[id] }))}
          value={kind}
          onChange={(id) => setTexts({ ...texts, kind: id as MeasurementKind })}
        />
        <OfRadio texts={texts} set={(change) => setTexts({ ...texts, ...change })} />
        <AgainstOthers texts={texts} set={(change) => setTexts({ ...texts, ...change })} />
        <Button type="submit" isDisabled={!isGood || isSending}>
          Measure again
        </Button>
      </form>
      {takesReference(kind) && (
        <p className="soft">
          This over’s own recording is number {over.capture.id}. With a reference the −6 dB passband is measured against it.
        </p>
      )}
      {message && <Notice>{message}</Notice>}
    </Sheet>
  );
}

interface FieldsProps {
  readonly texts: Texts;
  readonly set: (change: Partial<Texts>) => void;
}

/** Where the carrier is, which sideband, and the load that the power went into. */
function OfRadio({ texts, set }: FieldsProps) {
  const { kind, carrier, sideband, isSwapped, load } = texts;
  const { carrierHz, loadOhms } = numbersOf(texts);
  if (kind === 'power')
    return <Field label="Load, Ω" value={load} onChange={(text) => set({ load: text })} error={loadOhms ? undefined : '0.1 to 10000 Ω.'} />;
  if (!RADIO_KINDS.includes(kind)) return null;
  return (
    <>
      <Field
        label="Carrier from the centre, Hz"
        value={carrier}
        onChange={(text) => set({ carrier: text })}
        error={carrierHz === undefined ? 'Hertz; empty: it is found.' : undefined}
      />
      {kind === 'ssb' && (
        <Picker
          label="Sideband"
          choices={[
            { id: 'usb', text: 'USB' },
            { id: 'lsb', text: 'LSB' },
          ]}
          value={sideband}
          onChange={(id) => set({ sideband: id as 'usb' | 'lsb' })}
        />
      )}
      <Check isSelected={isSwapped} onChange={(isOn) => set({ isSwapped: isOn })}>
        I and Q swapped
      </Check>
    </>
  );
}

/** Other recordings that this one is measured against. */
function AgainstOthers({ texts, set }: FieldsProps) {
  const { kind, reference, offCurve, takesOffMic } = texts;
  const { referenceId, offCurveId } = numbersOf(texts);
  const error = (id: number | null | undefined) => (id === undefined ? 'A number of a recording, or nothing.' : undefined);
  if (!takesReference(kind)) return null;
  return (
    <>
      <Field
        label={kind === 'response' ? 'Signal sent: recording number' : 'Voice at the mic: recording number'}
        value={reference}
        onChange={(text) => set({ reference: text })}
        error={error(referenceId)}
      />
      {kind === 'response' && (
        <>
          <Field
            label="Curve to take off: recording number"
            value={offCurve}
            onChange={(text) => set({ offCurve: text })}
            error={error(offCurveId)}
          />
          <Check isSelected={takesOffMic} onChange={(isOn) => set({ takesOffMic: isOn })}>
            take the card’s mic off
          </Check>
        </>
      )}
    </>
  );
}
