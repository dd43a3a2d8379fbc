'use client';
/** How a capture was measured, and how else it may be. */
import { useState, useTransition } from 'react';
import styled from 'styled-components';
import { asked } from '@/client/asked.ts';
import { KIND_NAMES, KIND_NOTES, MEASUREMENT_KINDS, type MeasurementKind, RADIO_KINDS } from '@/core/measure/index.ts';
import { typedNumber } from '@/core/units/index.ts';
import type { CaptureSettings } from '@/server/db/models.ts';
import { measureOverAs } from '@/server/measuring/actions.ts';
import type { OverView } from '@/server/overs/overs.ts';
import { Button } from '@/ui/parts/Button.tsx';
import { Check } from '@/ui/parts/Check.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';

const Sheet = styled.details`
  border-top: 1px solid var(--line); margin-top: 12px; padding-top: 8px;
  summary { cursor: pointer; padding: 4px 0; }
  form { display: flex; gap: 14px; align-items: end; flex-wrap: wrap; margin: 8px 0; }`;

export function MeasuredAs({ over }: { over: OverView & { capture: NonNullable<OverView['capture']> } }) {
  const { settings: now, kind: wasKind } = over.capture;
  const [kind, setKind] = useState<MeasurementKind>(wasKind);
  const [carrier, setCarrier] = useState(now.carrierHz === undefined ? '' : String(now.carrierHz));
  const [sideband, setSideband] = useState(now.sideband ?? 'usb');
  const [isSwapped, setIsSwapped] = useState(now.isSwapped ?? false);
  const [load, setLoad] = useState(String(now.loadOhms ?? 50));
  const [reference, setReference] = useState(now.referenceCaptureId === undefined ? '' : String(now.referenceCaptureId));
  const [takesOffMic, setTakesOffMic] = useState(now.subtractsMicrophone ?? false);
  const [offCurve, setOffCurve] = useState(now.subtractCaptureId === undefined ? '' : String(now.subtractCaptureId));
  const [message, setMessage] = useState<string | null>(null);
  const [isSending, start] = useTransition();
  const isRadio = RADIO_KINDS.includes(kind);
  const carrierHz = typedNumber(carrier, -1e7, 1e7);
  const loadOhms = typedNumber(load, 0.1, 10_000);
  const referenceId = typedNumber(reference, 1, 4e9);
  const offCurveId = typedNumber(offCurve, 1, 4e9);
  const isGood =
    offCurveId !== undefined && carrierHz !== undefined && loadOhms !== undefined && loadOhms !== null && referenceId !== undefined;
  const takesReference = kind === 'voice' || kind === 'ssb' || kind === 'response';
  const send = () =>
    start(async () => {
      const settings: CaptureSettings = {
        ...(now.tunedHz !== undefined && { tunedHz: now.tunedHz }),
        ...(now.remark && { remark: now.remark }),
        ...(isRadio && carrierHz !== null && carrierHz !== undefined && { carrierHz }),
        ...(kind === 'ssb' && { sideband }),
        ...(isRadio && isSwapped && { isSwapped }),
        ...(kind === 'power' && loadOhms && { loadOhms }),
        ...(kind === 'response' && takesOffMic && { subtractsMicrophone: true }),
        ...(kind === 'response' && offCurveId && { subtractCaptureId: offCurveId }),
        ...(takesReference && referenceId && { referenceCaptureId: referenceId }),
      };
      const answer = await asked(measureOverAs({ overId: over.id, kind, settings }));
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
          onChange={(id) => setKind(id as MeasurementKind)}
        />
        {isRadio && (
          <Field
            label="Carrier from the centre, Hz"
            value={carrier}
            onChange={setCarrier}
            error={carrierHz === undefined ? 'Hertz; empty: it is found.' : undefined}
          />
        )}
        {kind === 'ssb' && (
          <Picker
            label="Sideband"
            choices={[
              { id: 'usb', text: 'USB' },
              { id: 'lsb', text: 'LSB' },
            ]}
            value={sideband}
            onChange={(id) => setSideband(id as 'usb' | 'lsb')}
          />
        )}
        {kind === 'power' && <Field label="Load, Ω" value={load} onChange={setLoad} error={loadOhms ? undefined : '0.1 to 10000 Ω.'} />}
        {takesReference && (
          <Field
            label={kind === 'response' ? 'Signal sent: recording number' : 'Voice at the mic: recording number'}
            value={reference}
            onChange={setReference}
            error={referenceId === undefined ? 'A number of a recording, or nothing.' : undefined}
          />
        )}
        {kind === 'response' && (
          <>
            <Field
              label="Curve to take off: recording number"
              value={offCurve}
              onChange={setOffCurve}
              error={offCurveId === undefined ? 'A number of a recording, or nothing.' : undefined}
            />
            <Check isSelected={takesOffMic} onChange={setTakesOffMic}>
              take the card’s mic off
            </Check>
          </>
        )}
        {isRadio && (
          <Check isSelected={isSwapped} onChange={setIsSwapped}>
            I and Q swapped
          </Check>
        )}
        <Button type="submit" isDisabled={!isGood || isSending}>
          Measure again
        </Button>
      </form>
      {takesReference && (
        <p className="soft">
          This over’s own recording is number {over.capture.id}. With a reference the −6 dB passband is measured against it.
        </p>
      )}
      {message && <Notice>{message}</Notice>}
    </Sheet>
  );
}
