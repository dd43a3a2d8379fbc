'use client';
/** The path that a profile makes: its stages, what each band can do, what is dead at factory values. */
import { useMemo, useState } from 'react';
import styled from 'styled-components';
import {
  bandsResponseDb,
  DIAL_STAGES,
  dialOf,
  effective,
  enableEqualizer,
  equalizerText,
  factoryCard,
  MODE_LABELS,
  type Mode,
  ofScale,
  positionsOf,
  type RigProfile,
  STAGE_NAMES,
  valueText,
  zoneText,
} from '@/core/rig/index.ts';
import { BalanceChart, DRAWN_HZ } from '@/ui/charts/BalanceChart.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';

const Path = styled.dl`
  margin: 8px 0; display: grid; grid-template-columns: 92px 1fr; gap: 3px 10px; font-size: 14px;
  dt { color: var(--soft); } dd { margin: 0; }`;

export function RigPreview({ profile }: { profile: RigProfile }) {
  const [wanted, setWanted] = useState<Mode | null>(null);
  const mode = wanted && profile.modes.includes(wanted) ? wanted : profile.modes[0];
  const view = useMemo(() => preview(profile, mode), [profile, mode]);
  return (
    <section aria-label="The resulting path" style={{ marginTop: 14 }}>
      <h2>
        The path in{' '}
        <Picker
          inline
          label="Mode of the preview"
          choices={profile.modes.map((id) => ({ id, text: MODE_LABELS[id] }))}
          value={mode}
          onChange={(id) => setWanted(id as Mode)}
        />
      </h2>
      <Path>{view.stages.flatMap(({ name, text }) => [<dt key={name}>{name}</dt>, <dd key={`${name} text`}>{text}</dd>])}</Path>
      {view.curves.length > 0 && (
        <>
          <BalanceChart
            curves={view.curves}
            passbandHz={view.passbandHz}
            range={view.range}
            height={190}
            label={`What each band of ${profile.name} can do at most, in dB`}
          />
          <p className="soft">The most each band can do at its factory frequency; the passband is shaded.</p>
        </>
      )}
      {view.dead.length > 0 && (
        <p className="soft">
          Dead at factory values: {view.dead.length} {view.dead.length === 1 ? 'dial' : 'dials'}. {view.reasons.join(' ')}
        </p>
      )}
    </section>
  );
}

/** Where a band does something: labels then stand at its curve. */
const drawnPart = (response: readonly number[]) => DRAWN_HZ.map((hz, k) => [hz, Math.abs(response[k]) < 0.2 ? null : response[k]] as const);

function preview(profile: RigProfile, mode: Mode) {
  const card = factoryCard(profile, mode);
  const { dials, passbandHz } = effective(profile, card);
  const awake = effective(profile, enableEqualizer(profile, card));
  const live = dials.filter(({ dead }) => !dead);
  const dead = dials.filter(({ dead: reason }) => reason);
  const stages = DIAL_STAGES.flatMap((stage) => {
    if (stage === 'equalizer') return [{ name: STAGE_NAMES[stage], text: equalizerText(profile) }];
    if (stage === 'passband') return [{ name: STAGE_NAMES[stage], text: `${passbandHz[0]}–${passbandHz[1]} Hz` }];
    if (stage === 'alc') return [{ name: STAGE_NAMES[stage], text: `zone ${zoneText(profile.alc)} ${ofScale(profile.alc)}` }];
    const own = live.filter(({ dial }) => dial.stage === stage);
    return own.length === 0
      ? []
      : [{ name: STAGE_NAMES[stage], text: own.map(({ dial, value }) => `${dial.label} ${valueText(dial, value)}`).join(', ') }];
  });
  const curves = awake.bands.map((band) => {
    const level = Math.max(...positionsOf(dialOf(profile, band.level).scale).map(Number));
    const response = bandsResponseDb(profile, [band], { ...awake.values, [band.level]: level }, DRAWN_HZ);
    return { name: '', role: 'predicted' as const, points: drawnPart(response) };
  });
  const top = Math.max(6, ...curves.flatMap(({ points }) => points.map(([, db]) => db ?? 0)));
  return {
    stages,
    passbandHz,
    curves,
    range: [-6, Math.ceil(top / 6) * 6 + 6] as const,
    dead: dead.map(({ dial }) => dial.label),
    reasons: [...new Set(dead.map(({ dead: reason }) => `${reason?.text} ${reason?.enable}`))].slice(0, 4),
  };
}
