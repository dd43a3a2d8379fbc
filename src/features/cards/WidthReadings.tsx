'use client';
/** While nobody knows what the width number means: both readings of each band in use, side by side. */
import { useState } from 'react';
import {
  type Card,
  dialOf,
  effective,
  HOW_TO_FIND_OUT,
  hasUnknownWidth,
  nameOf,
  type RigProfile,
  widthReadings,
  widthSentence,
} from '@/core/rig/index.ts';
import { BalanceChart, DRAWN_HZ } from '@/ui/charts/BalanceChart.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';

const points = (levels: readonly number[]) => DRAWN_HZ.map((hz, i) => [hz, levels[i]] as const);

export function WidthReadings({ rig, card }: { rig: RigProfile; card: Card }) {
  const [chosen, setChosen] = useState<string | null>(null);
  if (!hasUnknownWidth(rig)) return null;
  const { bands, values } = effective(rig, card);
  const read = bands.flatMap((band) => {
    // A band at 0 dB shows nothing: it is drawn as it would be at its full boost.
    const dial = dialOf(rig, band.level);
    const level = Number(values[band.level]) || (dial.scale.kind === 'steps' ? dial.scale.max : 6);
    const probe = { ...values, [band.level]: level };
    const readings = widthReadings(rig, band, probe, DRAWN_HZ);
    return readings ? [{ band, probe, level, readings }] : [];
  });
  const shown = read.find(({ band }) => band.level === chosen) ?? read.find(({ band }) => Number(values[band.level]) !== 0) ?? read[0];
  if (!shown)
    return (
      <p className="soft">
        What the width number of {rig.name} means is not known. {HOW_TO_FIND_OUT}
      </p>
    );
  return (
    <section aria-label="Width number">
      <h2>What the width number may mean</h2>
      {read.length > 1 && (
        <Picker
          inline
          label="Band"
          choices={read.map(({ band }) => ({ id: band.level, text: nameOf(dialOf(rig, band.level)) }))}
          value={shown.band.level}
          onChange={setChosen}
        />
      )}
      <BalanceChart
        curves={[
          { name: `if octaves (${shown.readings.number})`, role: 'predicted', points: points(shown.readings.octaves.responseDb) },
          { name: `if Q (${shown.readings.number})`, role: 'target', points: points(shown.readings.q.responseDb) },
        ]}
        range={
          shown.level > 0 ? [-3, Math.max(6, Math.ceil(shown.level / 3) * 3 + 3)] : [Math.min(-6, Math.floor(shown.level / 3) * 3 - 3), 3]
        }
        height={150}
        label={widthSentence(shown.band, shown.probe, shown.readings)}
      />
      <p>
        {Number(values[shown.band.level]) === 0 ? `Drawn at ${shown.level} dB. ` : ''}
        {widthSentence(shown.band, shown.probe, shown.readings)} Until you know, Dial Tune reads it as octaves and leaves it where it is.
      </p>
      <p className="soft">{HOW_TO_FIND_OUT}</p>
    </section>
  );
}
