'use client';

import type { Editor } from '@tiptap/react';
import { Command } from 'cmdk';
import { useDeferredValue, useState } from 'react';
import type { Found } from '@/core/search/contract';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { Path } from '../kit/path';
import { Stamp } from '../kit/stamp';
import { useAsk } from '../server/useCall';

/** An address as it is typed: of a page, or of mail. */
const typedAddress = /^(?:https?:\/\/|mailto:)\S+$|^[\w.-]+\.[a-z]{2,}(?:\/\S*)?$/iu;

const addressOf = ({ kind, id, about }: Found): string =>
  kind === 'paper' ? `/paper/${id}` : kind === 'person' ? `mailto:${about ?? ''}` : `/place/${id}`;

/** Links what is chosen in a note, or a new name where nothing is, to a paper, place, person or address. */
export function NoteLinkDialog({ editor, onClose }: { readonly editor: Editor; readonly onClose: () => void }) {
  const [words, setWords] = useState('');
  const asked = useDeferredValue(words);
  const { data, isPending } = useAsk('find', { words: asked.slice(0, 200) }, { enabled: asked.trim() !== '' });
  const typed = typedAddress.test(words.trim()) ? words.trim() : null;
  const isLinked = editor.isActive('link');

  const link = (href: string, name: string) => {
    const chain = editor.chain().focus().extendMarkRange('link');
    if (editor.state.selection.empty && !isLinked)
      chain.insertContent([{ type: 'text', text: name, marks: [{ type: 'link', attrs: { href } }] }]).run();
    else chain.setLink({ href }).run();
    onClose();
  };

  return (
    <Dialog
      title="Link"
      about="Who follows a link to a paper opens it only if it is open to them."
      open
      onClose={onClose}
    >
      <Command shouldFilter={false} label="What to link to" className="rounded-sm border border-edge">
        <Command.Input
          autoFocus
          value={words}
          onValueChange={setWords}
          placeholder="A paper, place or person; or an address: example.org"
          className="h-[36px] w-full rounded-t-sm border-b border-line bg-sheet px-3 text-base placeholder:text-soft"
        />
        <Command.List className="h-[232px] overflow-y-auto p-1">
          {asked.trim() !== '' && !isPending && !typed && (
            <Command.Empty className="px-2 py-3 text-sm text-soft">Nothing found for “{asked.trim()}”.</Command.Empty>
          )}
          {typed !== null && (
            <Command.Item
              value="address"
              onSelect={() => link(/^(?:https?:|mailto:)/iu.test(typed) ? typed : `https://${typed}`, typed)}
              className="cursor-pointer rounded-sm px-2 py-1.5 data-[selected=true]:bg-brine-wash"
            >
              The address {typed}
            </Command.Item>
          )}
          {data?.map((found) => (
            <Command.Item
              key={found.id}
              value={found.id}
              onSelect={() => link(addressOf(found), found.name)}
              className="flex cursor-pointer items-center gap-2 rounded-sm px-2 py-1.5 data-[selected=true]:bg-brine-wash"
            >
              {found.stamp && <Stamp word={found.stamp} />}
              <span className="truncate font-medium">{found.name}</span>
              <Path
                steps={found.about === null ? found.path : [found.about]}
                className="ml-auto max-w-[45%] shrink-0 text-sm text-soft"
              />
            </Command.Item>
          ))}
        </Command.List>
      </Command>
      <DialogActs>
        {isLinked && (
          <Button
            onClick={() => {
              editor.chain().focus().extendMarkRange('link').unsetLink().run();
              onClose();
            }}
          >
            Remove the link
          </Button>
        )}
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}
