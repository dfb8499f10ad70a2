'use client';

import { Button } from './button';
import { Dialog, DialogActs } from './dialog';
import { TextField } from './field';
import { say } from './notice';

/** A secret that is shown only once, to copy. @param what its name in running text: "link", "token" */
export function ShownOnce({
  title,
  about,
  what,
  secret,
  help,
  onClose,
}: {
  readonly title: string;
  readonly about: string;
  readonly what: string;
  readonly secret: string;
  readonly help?: string | undefined;
  readonly onClose: () => void;
}) {
  return (
    <Dialog title={title} about={about} open onClose={onClose}>
      <TextField
        label={what.charAt(0).toUpperCase() + what.slice(1)}
        readOnly
        value={secret}
        onFocus={(event) => event.target.select()}
        className="font-mono"
        help={help}
      />
      <DialogActs>
        <Button
          look="main"
          onClick={() => void navigator.clipboard.writeText(secret).then(() => say.done(`The ${what} is copied`))}
        >
          Copy the {what}
        </Button>
        <Button onClick={onClose}>Done</Button>
      </DialogActs>
    </Dialog>
  );
}
