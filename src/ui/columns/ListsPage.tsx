'use client';

import { useMemo, useRef, useState } from 'react';
import { Lexicon } from '@/core/columns/lexicon';
import type { OutputOf } from '@/core/contract';
import type { Term } from '@/core/columns/model';
import { decodeTable } from '@/core/interchange/block';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Menu } from '../kit/menu';
import { say } from '../kit/notice';
import type { ControlledList } from '@/core/columns/model';
import { NameDialog } from '../forms/NameDialog';
import { useAsOpened } from '../forms/useAsOpened';
import { Waiting } from '../forms/Waiting';
import { useAct, useAsk } from '../server/useCall';
import { TermDialog } from './TermDialog';

type List = OutputOf<'lists.all'>[number];

/** The controlled lists: every value with its other names, its level and how many papers use it. */
export function ListsPage() {
  const { data, error } = useAsk('lists.all', {});
  const [chosen, setChosen] = useState<string | null>(null);
  const [dialog, setDialog] = useState<'new' | 'rename' | null>(null);
  const create = useAct('list.create', { quiet: true });
  const bring = useAct('list.import');
  const file = useRef<HTMLInputElement>(null);
  if (error || !data) return <Waiting what="the lists" error={error} />;
  const list = data.find((each) => each.id === chosen) ?? data[0];

  async function bringIn(files: FileList | null) {
    const [first] = files ?? [];
    if (!first || !list) return;
    const text = decodeTable(new Uint8Array(await first.arrayBuffer()));
    const form = /\.(?:json|jsonld)$/iu.test(first.name) ? ('skos' as const) : ('csv' as const);
    bring.mutate(
      { listId: list.id, form, text },
      {
        onSuccess: ({ added, changed }) =>
          say.done(`${counted(added, 'value')} added, ${changed} changed on “${list.name}”`),
      },
    );
  }

  return (
    <main id="main" className="flex min-w-0 flex-1">
      <nav aria-label="Lists" className="w-[232px] shrink-0 overflow-y-auto border-r border-line bg-fog py-3">
        <div className="flex items-center justify-between px-4 pb-2">
          <span className="font-condensed text-[11.5px] tracking-wide text-soft uppercase">Controlled lists</span>
          <Button className="!h-[24px] !px-2" onClick={() => setDialog('new')}>
            New
          </Button>
        </div>
        {data.map((each) => (
          <button
            key={each.id}
            type="button"
            aria-current={each.id === list?.id || undefined}
            onClick={() => setChosen(each.id)}
            className={`flex h-[30px] w-full items-center gap-2 px-4 text-left ${each.id === list?.id ? 'bg-brine-wash font-semibold' : 'hover:bg-mist'}`}
          >
            <span className="min-w-0 flex-1 truncate">{each.name}</span>
            <span className="figures text-sm font-normal text-soft">{each.terms.length}</span>
          </button>
        ))}
      </nav>
      <div className="min-w-0 flex-1 overflow-y-auto px-6 py-5">
        {!list ? (
          <p className="rounded-sm border border-line bg-sheet px-4 py-8 text-center text-soft">
            No lists yet. A controlled list holds the permitted values of a column, each with one spelling.
          </p>
        ) : (
          <>
            <div className="mb-3 flex flex-wrap items-center gap-2">
              <div className="mr-auto">
                <h1 className="font-condensed text-xl">{list.name}</h1>
                <p className="text-sm text-soft">
                  {list.columns.length === 0 ? 'No column takes from it yet.' : `Values of ${list.columns.join(', ')}.`}
                </p>
              </div>
              <Button onClick={() => setDialog('rename')}>Rename</Button>
              <Button onClick={() => file.current?.click()}>Import</Button>
              <input
                ref={file}
                type="file"
                hidden
                aria-label="Import values from CSV or SKOS"
                accept=".csv,.txt,.json,.jsonld"
                onChange={(event) => {
                  void bringIn(event.target.files);
                  event.target.value = '';
                }}
              />
              <Menu
                label="Export"
                acts={[
                  { label: 'As CSV', act: () => window.location.assign(`/api/lists/${list.id}?as=csv`) },
                  { label: 'As SKOS (JSON-LD)', act: () => window.location.assign(`/api/lists/${list.id}?as=skos`) },
                ]}
              />
            </div>
            <Terms key={list.id} list={list} />
          </>
        )}
      </div>
      {dialog === 'new' && (
        <NameDialog
          title="New controlled list"
          label="Name"
          act="Make the list"
          onClose={() => setDialog(null)}
          onSave={async (name) => setChosen((await create.mutateAsync({ name, terms: [] })).id)}
        />
      )}
      {dialog === 'rename' && list && <RenameList list={list} onClose={() => setDialog(null)} />}
    </main>
  );
}

function Terms({ list }: { readonly list: List }) {
  const lexicon = useMemo(() => new Lexicon(list.terms), [list.terms]);
  const add = useAct('term.add');
  const reorder = useAct('term.reorder');
  const retire = useAct('term.retire');
  const [words, setWords] = useState('');
  const [open, setOpen] = useState<Term | null>(null);

  function move(term: Term, by: -1 | 1) {
    const siblings = lexicon
      .inOrder()
      .map((each) => each.term)
      .filter((each) => each.parentId === term.parentId);
    const at = siblings.findIndex((each) => each.id === term.id);
    if (at + by < 0 || at + by >= siblings.length) return;
    reorder.mutate({ termId: term.id, beforeId: (by === -1 ? siblings[at - 1] : siblings[at + 2])?.id ?? null });
  }

  return (
    <>
      <form
        className="mb-3 flex max-w-[520px] gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (words.trim() !== '')
            add.mutate({ listId: list.id, name: words, parentId: null }, { onSuccess: () => setWords('') });
        }}
      >
        <input
          aria-label="A new value"
          placeholder="A new value"
          value={words}
          maxLength={200}
          onChange={(event) => setWords(event.target.value)}
          className="h-[30px] flex-1 rounded-sm border border-edge bg-sheet px-2"
        />
        <Button type="submit" disabled={words.trim() === '' || add.isPending}>
          Add to {list.name}
        </Button>
      </form>
      {list.terms.length === 0 && <p className="text-soft">No values yet.</p>}
      <ul className="border border-line bg-sheet empty:hidden">
        {lexicon.inOrder().map(({ term, depth }) => (
          <li
            key={term.id}
            style={{ paddingLeft: 12 + depth * 22 }}
            className={`flex min-h-[36px] items-center gap-3 border-b border-line py-1 pr-3 last:border-0 ${term.retired ? 'text-soft' : ''}`}
          >
            <span className="font-medium">{term.name}</span>
            {term.retired && <span className="text-sm">retired</span>}
            {term.otherNames.length > 0 && (
              <span className="truncate text-sm text-soft">also {term.otherNames.join(', ')}</span>
            )}
            <span className="figures ml-auto text-sm whitespace-nowrap text-soft">
              {counted(list.uses[term.id] ?? 0, 'paper')}
            </span>
            <Menu
              label="Change"
              name={`Change ${term.name}`}
              acts={[
                { label: 'Names, level, merging…', act: () => setOpen(term) },
                { label: 'Move it up', act: () => move(term, -1) },
                { label: 'Move it down', act: () => move(term, 1) },
                {
                  label: term.retired ? 'Offer it again' : 'Retire it: keep where used, offer no more',
                  act: () => retire.mutate({ termId: term.id, retired: !term.retired }),
                  apart: true,
                },
              ]}
            />
          </li>
        ))}
      </ul>
      {open && <TermDialog term={open} list={list} onClose={() => setOpen(null)} />}
    </>
  );
}

function RenameList({ list: listNow, onClose }: { readonly list: ControlledList; readonly onClose: () => void }) {
  const list = useAsOpened(listNow);
  const rename = useAct('list.rename', { quiet: true });
  return (
    <NameDialog
      title={`Rename “${list.name}”`}
      label="Name"
      value={list.name}
      act="Rename it"
      onClose={onClose}
      onSave={(name) => rename.mutateAsync({ listId: list.id, name, revision: list.revision })}
    />
  );
}
