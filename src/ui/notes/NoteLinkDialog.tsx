'use client';

import type { Editor } from '@tiptap/react';
import type { Found } from '@/core/search/contract';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { FoundChooser } from '../choosing/FoundChooser';

/** An address as it is typed: of a page, or of mail. */
const typedAddress = /^(?:https?:\/\/|mailto:)\S+$|^[\w.-]+\.[a-z]{2,}(?:\/\S*)?$/iu;

const addressOf = ({ kind, id, about }: Found): string =>
  kind === 'paper' ? `/paper/${id}` : kind === 'person' ? `mailto:${about ?? ''}` : `/place/${id}`;

/** Links what is chosen in a note, or a new name where nothing is, to a paper, place, person or address. */
export function NoteLinkDialog({ editor, onClose }: { readonly editor: Editor; readonly onClose: () => void }) {
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
      <FoundChooser
        label="What to link to"
        placeholder="A paper, place or person; or an address: example.org"
        typed={(words) => (typedAddress.test(words) ? `The address ${words}` : null)}
        onTyped={(words) => link(/^(?:https?:|mailto:)/iu.test(words) ? words : `https://${words}`, words)}
        onChoose={(found) => link(addressOf(found), found.name)}
      />
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
