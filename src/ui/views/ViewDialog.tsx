'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { nameSchema } from '@/core/text/name';
import { counted } from '@/core/text/measure';
import type { ViewsAt } from '@/core/views/contract';
import { audiences, type SavedView } from '@/core/views/saved';
import type { ViewSpec } from '@/core/views/spec';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { LongField, TextField } from '../kit/field';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';
import { useAsOpened } from '../forms/useAsOpened';

const form = z.object({
  name: nameSchema,
  purpose: z.string().max(400, 'A purpose of at most 400 characters fits.'),
  audience: z.enum(audiences),
  opensHere: z.boolean(),
});
type Fields = z.output<typeof form>;

const audienceWords: Record<SavedView['audience'], string> = {
  me: 'Me',
  groups: 'Chosen groups',
  all: 'All who may see the place',
};

/** Saves what is on the screen as a view, or changes what is said of a saved one. */
export function ViewDialog({
  placeId,
  placeName,
  at,
  spec,
  view: viewNow,
  onClose,
  onSaved,
}: {
  readonly placeId: string;
  readonly placeName: string;
  readonly at: ViewsAt;
  readonly spec: ViewSpec;
  /** The one to change; null to save a new one. */
  readonly view: SavedView | null;
  readonly onClose: () => void;
  readonly onSaved: (viewId: string) => void;
}) {
  const view = useAsOpened(viewNow);
  const save = useAct('view.save', { quiet: true });
  const change = useAct('view.change', { quiet: true });
  const [groupIds, setGroupIds] = useState<readonly string[]>(view?.groupIds ?? []);
  const { register, handleSubmit, formState, setError, watch } = useForm<Fields>({
    resolver: zodResolver(form),
    defaultValues: {
      name: view?.name ?? '',
      purpose: view?.purpose ?? '',
      audience: view?.audience ?? 'me',
      opensHere: view?.opensHere ?? false,
    },
  });
  const audience = watch('audience');
  const wrong = (name: keyof Fields) => formState.errors[name]?.message;
  const mayShare = view ? view.placeId !== placeId || at.mayShare : at.mayShare;

  async function onSubmit(fields: Fields) {
    const all = { ...fields, groupIds: [...groupIds], spec };
    try {
      if (view) {
        await change.mutateAsync({ ...all, viewId: view.id, revision: view.revision });
        onSaved(view.id);
      } else {
        const { id } = await save.mutateAsync({ ...all, placeId });
        onSaved(id);
      }
      say.done(`Saved the view “${fields.name}”.`);
      onClose();
    } catch (error) {
      setError('name', { message: saysOf(error) });
    }
  }

  return (
    <Dialog
      title={view ? `The view “${view.name}”` : 'Save as a view'}
      about={`A way of looking at ${placeName}. Each person sees in it only what is open to them.`}
      open
      onClose={onClose}
    >
      <form onSubmit={(event) => void handleSubmit(onSubmit)(event)} noValidate>
        <TextField label="Name" wrong={wrong('name')} {...register('name')} />
        <LongField
          label="Purpose"
          help="What it is for; shown when the pointer rests on its tab."
          wrong={wrong('purpose')}
          {...register('purpose')}
          rows={2}
        />
        <fieldset className="mb-3.5">
          <legend className="mb-1 text-sm font-semibold">For whom</legend>
          {audiences.map((each) => (
            <label key={each} className="mr-5 inline-flex items-center gap-2">
              <input
                type="radio"
                value={each}
                disabled={each !== 'me' && !mayShare}
                className="accent-brine"
                {...register('audience')}
              />
              {audienceWords[each]}
            </label>
          ))}
          {!mayShare && <p className="mt-1 text-sm text-soft">Views for others are saved by who manages the place.</p>}
          {audience === 'groups' && (
            <div className="mt-2 flex flex-wrap gap-x-5 gap-y-1 border-l-2 border-line pl-3">
              {at.groups.length === 0 && <p className="text-sm text-soft">The library has no groups yet.</p>}
              {at.groups.map((group) => (
                <label key={group.id} className="inline-flex items-center gap-2">
                  <input
                    type="checkbox"
                    checked={groupIds.includes(group.id)}
                    onChange={() =>
                      setGroupIds(
                        groupIds.includes(group.id)
                          ? groupIds.filter((id) => id !== group.id)
                          : [...groupIds, group.id],
                      )
                    }
                    className="size-[15px] accent-brine"
                  />
                  {group.name}
                </label>
              ))}
            </div>
          )}
        </fieldset>
        <label className="inline-flex items-center gap-2">
          <input type="checkbox" className="size-[15px] accent-brine" {...register('opensHere')} />
          Opens by itself, here and in every place below
        </label>
        {view && view.others > 0 && (
          <p className="mt-3 border-l-2 border-ember pl-3 text-sm">
            {counted(view.others, 'other person', 'other people')} {view.others === 1 ? 'has' : 'have'} this view. They
            see it as you save it, from now on.
          </p>
        )}
        <DialogActs>
          <Button look="main" type="submit" disabled={formState.isSubmitting}>
            {view ? 'Save the view' : `Save for ${placeName}`}
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}
