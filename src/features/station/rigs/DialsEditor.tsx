'use client';
/** The radio's dials as a table, by their place in the path, as the manual lists them. */
import { useState } from 'react';
import styled from 'styled-components';
import { DIAL_STAGES, type Dial, parseDialRows, type RigProfile, STAGE_NAMES, USUAL_DIALS } from '@/core/rig/index.ts';
import type { Problem } from '@/core/schema/index.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Dialog } from '@/ui/parts/Dialog.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { Problems } from '@/ui/parts/Problems.tsx';
import { Scroll, Table } from '@/ui/parts/Table.tsx';
import { TextArea } from '@/ui/parts/TextArea.tsx';
import { DialRowEditor } from './DialRowEditor.tsx';
import { blankDial, type RigAction } from './rigDraft.ts';
import { WhenSheet, whenText } from './WhenSheet.tsx';

const Dials = styled.section`
  tr.stage td { font-weight: 700; padding-top: 12px; }
  td { vertical-align: top; padding: 2px 4px; }
  tr.wrong td { background: color-mix(in srgb, var(--fault) 9%, transparent); }
  input { padding: 3px 7px; min-height: 30px; border: 1px solid var(--line); border-radius: 3px; background: var(--sheet); width: 100%; }`;

type Act = (action: RigAction) => void;

interface DialsEditorProps {
  readonly profile: RigProfile;
  readonly problems: readonly Problem[];
  readonly act: Act;
}

export function DialsEditor({ profile, problems, act }: DialsEditorProps) {
  const [isPasting, setIsPasting] = useState(false);
  const [opened, setOpened] = useState<string | null>(null);
  const openDial = profile.dials.find(({ id }) => id === opened);
  const taken = profile.dials.map(({ id }) => id);
  const wrong = new Set(problems.flatMap(({ place }) => /^dials\.(\d+)/.exec(place)?.[1] ?? []).map(Number));
  return (
    <Dials aria-label="Dials">
      <h2>Dials</h2>
      <p className="soft">
        Menu address and label as the radio shows them; leave the address empty for a knob on the front. Range: 0 to 100, or −10 to 10 by 2,
        or 100, 200, 300, or off, on. The arrow at the end of a row numbers the rows after it.
      </p>
      <Scroll>
        <Table>
          <thead>
            <tr>
              <th style={{ width: 84 }}>menu</th>
              <th style={{ minWidth: 170 }}>label</th>
              <th style={{ minWidth: 150 }}>range</th>
              <th style={{ width: 62 }}>unit</th>
              <th style={{ width: 84 }}>factory</th>
              <th>works</th>
              <th />
            </tr>
          </thead>
          {DIAL_STAGES.map((stage) => (
            <StageRows key={stage} stage={stage} profile={profile} wrong={wrong} act={act} onWhen={setOpened} />
          ))}
        </Table>
      </Scroll>
      <Additions profile={profile} act={act} onPaste={() => setIsPasting(true)} />
      {openDial && (
        <WhenSheet
          profile={profile}
          dial={openDial}
          change={(change) => act({ kind: 'dial', id: openDial.id, change })}
          onClose={() => setOpened(null)}
        />
      )}
      {isPasting && (
        <PasteRows
          taken={taken}
          onAdd={(dials) => {
            act({ kind: 'addDials', dials });
            setIsPasting(false);
          }}
          onClose={() => setIsPasting(false)}
        />
      )}
    </Dials>
  );
}

interface StageRowsProps {
  readonly stage: Dial['stage'];
  readonly profile: RigProfile;
  /** Places of the dials that have a problem. */
  readonly wrong: ReadonlySet<number>;
  readonly act: Act;
  readonly onWhen: (id: string) => void;
}

function StageRows({ stage, profile, wrong, act, onWhen }: StageRowsProps) {
  const taken = profile.dials.map(({ id }) => id);
  return (
    <tbody>
      <tr className="stage">
        <td colSpan={7}>
          {STAGE_NAMES[stage]}{' '}
          <Button
            aria-label={`Add a dial to ${STAGE_NAMES[stage]}`}
            style={{ minHeight: 0, padding: '0 9px', fontWeight: 400, fontSize: 13.5 }}
            onPress={() => act({ kind: 'addDials', dials: [blankDial(stage, taken)] })}
          >
            Add a dial
          </Button>
        </td>
      </tr>
      {profile.dials.map((dial, i) =>
        dial.stage !== stage ? null : (
          <DialRowEditor key={dial.id} dial={dial} when={whenText(profile, dial)} isWrong={wrong.has(i)} act={act} onWhen={onWhen} />
        ),
      )}
    </tbody>
  );
}

function Additions({ profile, act, onPaste }: { profile: RigProfile; act: Act; onPaste: () => void }) {
  const lacking = (['carrier-offset', 'fm-width', 'power', 'mic-gain'] as const)
    .map((role) => USUAL_DIALS[role])
    .filter(({ id }) => !profile.dials.some((dial) => dial.id === id));
  return (
    <Bar>
      <Button onPress={onPaste}>Paste rows of the manual's table</Button>
      {lacking.map((dial) => (
        <Button key={dial.id} aria-label={`Add ${dial.label}`} onPress={() => act({ kind: 'addDials', dials: [fitting(dial, profile)] })}>
          + {dial.label}
        </Button>
      ))}
      <span className="soft">{profile.dials.length} dials</span>
    </Bar>
  );
}

/** A usual dial without the modes that this radio lacks. */
function fitting({ modes, ...dial }: Dial, profile: RigProfile): Dial {
  const own = modes?.filter((mode) => profile.modes.includes(mode)) ?? [];
  return own.length > 0 ? { ...dial, modes: own } : dial;
}

function PasteRows({ taken, onAdd, onClose }: { taken: readonly string[]; onAdd: (dials: readonly Dial[]) => void; onClose: () => void }) {
  const [text, setText] = useState('');
  const [stage, setStage] = useState<Dial['stage']>('equalizer');
  const { dials, problems } = parseDialRows(text, stage, taken);
  return (
    <Dialog title="Paste rows of the manual's table" isOpen onClose={onClose}>
      <Picker
        label="They belong to"
        choices={DIAL_STAGES.map((id) => ({ id, text: STAGE_NAMES[id] }))}
        value={stage}
        onChange={(id) => setStage(id as Dial['stage'])}
      />
      <TextArea
        label="One dial a line: menu; label; range; factory; unit"
        hint="Separate cells by tabs or semicolons. Example: 4.12; Low level; -20 to 20; 0; dB"
        value={text}
        onChange={setText}
        rows={9}
        autoFocus
      />
      {problems.length > 0 && <Problems problems={problems.map(({ text: words }) => ({ place: '', text: words }))} />}
      <Bar>
        <Button primary isDisabled={dials.length === 0} onPress={() => onAdd(dials)}>
          Add {dials.length} {dials.length === 1 ? 'dial' : 'dials'}
        </Button>
        <Button onPress={onClose}>Cancel</Button>
      </Bar>
    </Dialog>
  );
}
