'use client';
/** The overs' curves over each other: tone balance, radio spectra about their carriers, responses. */
import { useMemo } from 'react';
import { slidingThirdOctaves, VOICE_TWELFTH_OCTAVES } from '@/core/dsp/index.ts';
import { compareResponses, micOrRadio, type RadioDetail, type ResponseMeasurement, type VoiceDetail } from '@/core/measure/index.ts';
import { powerToDb } from '@/core/units/index.ts';
import { SpectrumChart, type SpectrumLine } from '@/ui/charts/SpectrumChart.tsx';
import { type Lettered, ROLES, viewOf } from './letters.ts';

export function Overlays({ items }: { items: readonly Lettered[] }) {
  const voices = items.filter(({ over }) => over.evidence.result.kind === 'voice');
  const radios = items.filter(({ over }) => ['ssb', 'am', 'fm', 'two-tone'].includes(over.evidence.result.kind));
  const responses = items.filter(({ over }) => over.evidence.result.kind === 'response');
  return (
    <>
      {voices.length > 1 && <Voices items={voices} all={items} />}
      {radios.length > 1 && <Radios items={radios} all={items} />}
      {responses.length > 1 && <Responses items={responses} all={items} />}
      {voices.length < 2 && radios.length < 2 && responses.length < 2 && <p>These overs have no measurement in common to overlay.</p>}
    </>
  );
}

const roleOf = (item: Lettered, all: readonly Lettered[]) => ROLES[all.indexOf(item)];

interface Part {
  readonly items: readonly Lettered[];
  readonly all: readonly Lettered[];
}

const LOG_TICKS = [100, 200, 300, 500, 1000, 2000, 3000, 5000];

function Voices({ items, all }: Part) {
  const lines = useMemo<SpectrumLine[]>(
    () =>
      items.map((item) => {
        const powers = slidingThirdOctaves((item.over.evidence.detail as VoiceDetail).speechPowers);
        const top = Math.max(...powers.map((power) => power ?? 0));
        return {
          name: item.letter,
          role: roleOf(item, all),
          points: powers.map((power, i) => [VOICE_TWELFTH_OCTAVES[i].centreHz, power && top ? powerToDb(power / top) : null] as const),
        };
      }),
    [items, all],
  );
  return (
    <SpectrumChart
      lines={lines}
      range={VOICE_RANGE}
      xRange={VOICE_X}
      logTicks={LOG_TICKS}
      label={`Third-octave levels of the speech of ${names(items)}, each re its strongest.`}
    />
  );
}

const VOICE_RANGE = [-50, 5] as const;
const VOICE_X = [80, 5000] as const;
const names = (items: readonly Lettered[]) => items.map(({ letter }) => letter).join(', ');

/** About the carrier, re the strongest of each; LSB is turned over so that audio runs to the right. */
function Radios({ items, all }: Part) {
  const lines = useMemo<SpectrumLine[]>(
    () =>
      items.flatMap((item) => {
        const { mean } = item.over.evidence.detail as RadioDetail;
        const view = viewOf(item);
        if (!mean || !view || view.kind === 'voice') return [];
        const sign = view.kind === 'ssb' && view.sideband === 'lsb' ? -1 : 1;
        const top = Math.max(...mean.db.map((level) => level ?? -300));
        const points = mean.db.map(
          (level, k) => [sign * (mean.firstHz + k * mean.stepHz - view.carrierHz), level === null ? null : level - top] as const,
        );
        return [{ name: item.letter, role: roleOf(item, all), points: sign < 0 ? points.reverse() : points }];
      }),
    [items, all],
  );
  return (
    <SpectrumChart
      lines={lines}
      range={RADIO_RANGE}
      xRange={RADIO_X}
      label={`Spectra of ${names(items)} about their carriers, each re its strongest.`}
    />
  );
}

const RADIO_RANGE = [-90, 5] as const;
const RADIO_X = [-8000, 8000] as const;

function Responses({ items, all }: Part) {
  const lines = useMemo<SpectrumLine[]>(
    () =>
      items.map((item) => ({
        name: item.letter,
        role: roleOf(item, all),
        points: (item.over.evidence.result as ResponseMeasurement).curve,
      })),
    [items, all],
  );
  const [first, ...rest] = items;
  const curveOf = (item: Lettered) => item.over.evidence.result as ResponseMeasurement;
  return (
    <>
      <SpectrumChart
        lines={lines}
        range={RESPONSE_RANGE}
        xRange={VOICE_X}
        logTicks={LOG_TICKS}
        label={`Responses of ${names(items)} re 1 kHz.`}
      />
      {rest.map((item) => {
        const { sentences } = compareResponses(curveOf(item), curveOf(first), item.letter, first.letter);
        const verdict = micOrRadio(curveOf(first), curveOf(item));
        return (
          <div key={item.letter}>
            <p>
              <strong>
                {item.letter} against {first.letter}:
              </strong>{' '}
              {sentences.join(' ')}
            </p>
            <details>
              <summary>
                Is it the mic or the radio? (if {first.letter} is the sweep into the mic socket and {item.letter} the same sweep played into
                the mic)
              </summary>
              <p>{verdict.sentences.join(' ')}</p>
            </details>
          </div>
        );
      })}
    </>
  );
}

const RESPONSE_RANGE = [-40, 5] as const;
