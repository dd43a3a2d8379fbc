'use client';
/** The cards of the station, what is possibly overlooked on them, and the ways to a new one. */
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { FileTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { asked } from '@/client/asked.ts';
import { MISTAKE_LABELS, MODE_LABELS, PURPOSE_LABELS } from '@/core/rig/index.ts';
import { saveCard } from '@/server/cards/actions.ts';
import type { CardSummary } from '@/server/cards/cardList.ts';
import type { Station } from '@/server/station/station.ts';
import { useKeys } from '@/ui/keys.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Check } from '@/ui/parts/Check.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Paging } from '@/ui/parts/Paging.tsx';
import { SearchBar } from '@/ui/parts/SearchBar.tsx';
import { StateMark } from '@/ui/parts/StateMark.tsx';
import { Scroll, Table } from '@/ui/parts/Table.tsx';
import { Page, Shell } from '@/ui/shell/Shell.tsx';
import { utc } from '@/ui/utc.ts';
import { type CardDraft, draftFromFile } from './cardDraft.ts';
import { NewCard } from './NewCard.tsx';

const Tools = styled.div`display: flex; gap: 20px; align-items: center; margin: 8px 0; flex-wrap: wrap;`;
const Mark = styled.span`display: inline-flex; gap: 7px; align-items: baseline;`;

export interface CardsListProps {
  readonly cards: readonly CardSummary[];
  readonly station: Station;
  readonly total: number;
  readonly page: number;
  readonly pages: number;
  readonly search?: string;
  readonly withRetired: boolean;
}

export function CardsList({ cards, station, total, page, pages, search, withRetired }: CardsListProps) {
  const router = useRouter();
  const [draft, setDraft] = useState<CardDraft | null>(null);
  const [message, setMessage] = useState<string | null>(null);
  useKeys({ c: () => setDraft({}) });
  const restore = async (cardId: number) => {
    const answer = await asked(saveCard({ cardId, isRetired: false }));
    setMessage(answer.ok ? null : answer.message);
  };
  const read = async (file: File | undefined) => {
    if (!file) return;
    const found = draftFromFile(await file.text(), station);
    if ('problem' in found) setMessage(`${file.name}: ${found.problem}`);
    else setDraft(found);
  };
  return (
    <Shell>
      <Page>
        <h1>Cards</h1>
        <p className="soft">A card holds the numbers of every dial of one rig, for one operator, mic, mode and purpose.</p>
        <Tools className="no-print">
          <SearchBar label="Find" />
          <span className="soft">
            {total} {total === 1 ? 'card' : 'cards'}
          </span>
          <Check
            isSelected={withRetired}
            onChange={(isOn) => {
              const query = new URLSearchParams(search ? { search } : {});
              if (isOn) query.set('retired', '1');
              router.replace(`/cards?${query}`);
            }}
          >
            Show retired
          </Check>
          <Button primary onPress={() => setDraft({})}>
            New card
          </Button>
          <FileTrigger acceptedFileTypes={['.json']} onSelect={(files) => void read(files?.[0])}>
            <Button>Import a card</Button>
          </FileTrigger>
        </Tools>
        {message && <Notice tone="fault">{message}</Notice>}
        {cards.length === 0 ? (
          <p>{search ? `No card, operator or rig has “${search}” in its name.` : 'No card yet.'}</p>
        ) : (
          <CardsTable cards={cards} onRestore={(id) => void restore(id)} />
        )}
        <Bar>
          <Paging page={page} pages={pages} path="/cards" />
        </Bar>
        {draft && <NewCard station={station} draft={draft} onClose={() => setDraft(null)} />}
      </Page>
    </Shell>
  );
}

function CardsTable({ cards, onRestore }: { cards: readonly CardSummary[]; onRestore: (id: number) => void }) {
  return (
    <Scroll>
      <Table>
        <thead>
          <tr>
            <th>card</th>
            <th>operator</th>
            <th>rig</th>
            <th>mode</th>
            <th>for</th>
            <th>possibly overlooked</th>
            <th className="num">revision</th>
            <th>changed (UTC)</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {cards.map((card) => (
            <CardRow key={card.id} card={card} onRestore={onRestore} />
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}

function CardRow({ card, onRestore }: { card: CardSummary; onRestore: (id: number) => void }) {
  return (
    <tr>
      <td>
        <Link href={`/cards/${card.id}`}>{card.name}</Link>
        {card.practiceRadio !== null && <b> practice</b>}
        {card.isRetired && <span className="soft"> (retired)</span>}
      </td>
      <td>{card.operator}</td>
      <td>{card.rig}</td>
      <td>{MODE_LABELS[card.mode]}</td>
      <td>{PURPOSE_LABELS[card.purpose]}</td>
      <td>
        {card.mistakes.length > 0 && (
          <Mark>
            <StateMark state="watch" />
            {[...new Set(card.mistakes)].map((code) => MISTAKE_LABELS[code]).join(', ')}
          </Mark>
        )}
      </td>
      <td className="num">{card.revision}</td>
      <td className="mono whole">{utc(card.changedAt)}</td>
      <td className="whole">
        <Link href={`/bench?card=${card.id}`} aria-label={`${card.name} at the Bench`}>
          Bench
        </Link>
        {card.isRetired && (
          <Button aria-label={`Restore ${card.name}`} onPress={() => onRestore(card.id)}>
            Restore
          </Button>
        )}
      </td>
    </tr>
  );
}
