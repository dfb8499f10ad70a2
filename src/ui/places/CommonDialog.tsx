'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { placeAddress } from '@/core/places/common';
import type { PlacePage } from '@/core/places/model';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { ChoiceField } from '../kit/field';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { Consequences } from '../access/Consequences';

/** Makes a folder common to all dossiers of its series, or one dossier's only, after saying what that means. */
export function CommonDialog({ page, onClose }: { readonly page: PlacePage; readonly onClose: () => void }) {
  const router = useRouter();
  const { place } = page;
  const becomes = place.commonTo === null;
  const seriesId = page.path[0]?.id ?? '';
  const siblings = useAsk('place.children', { placeId: seriesId }, { enabled: !becomes });
  const dossiers = (siblings.data ?? []).filter((each) => each.kind === 'dossier' && !each.bareStep);
  const [chosen, setChosen] = useState<string | null>(page.withinId);
  const onlyId = becomes ? null : (chosen ?? dossiers[0]?.id ?? null);
  const asked = { placeId: place.id, onlyId };
  const forecast = useAsk('common.forecast', asked, { enabled: becomes || onlyId !== null });
  const set = useAct('common.set', { quiet: true });
  const move = useAct('place.move', { quiet: true });
  const { data } = forecast;

  const dossierId = page.path.find((step) => step.kind === 'dossier')?.id ?? null;

  function make() {
    set.mutate(asked, {
      onSuccess: ({ fromId }) => {
        const done = becomes ? `“${place.name}” is common to all dossiers` : `“${place.name}” is one dossier’s only`;
        // One that stood in the series itself was no dossier's: there is none to give it back to.
        if (becomes && dossierId === null) say.done(done);
        else say.undoable(done, () => void takeBack(fromId).catch((error: unknown) => say.refusal(saysOf(error))));
        onClose();
        router.push(placeAddress(place.id, becomes ? dossierId : null));
      },
    });
  }

  async function takeBack(fromId: string) {
    await set.mutateAsync({ placeId: place.id, onlyId: becomes ? dossierId : null });
    // Its dossier has it at the top again, or where the plan says: it may have stood deeper.
    if (becomes) await move.mutateAsync({ placeId: place.id, toId: fromId });
    router.push(placeAddress(place.id, becomes ? null : onlyId));
  }

  return (
    <Dialog
      title={becomes ? `Make “${place.name}” common to all dossiers` : `Make “${place.name}” one dossier’s only`}
      about={
        becomes
          ? 'It is then kept once, at the series, and seen and filed into from every dossier. Its papers count once.'
          : 'It then stands in that dossier, and no other shows it.'
      }
      open
      onClose={onClose}
    >
      {!becomes && (
        <ChoiceField label="Belongs to" value={onlyId ?? ''} onChange={(event) => setChosen(event.target.value)}>
          {dossiers.map((each) => (
            <option key={each.id} value={each.id}>
              {[each.reference, each.name].filter(Boolean).join(' ')}
            </option>
          ))}
        </ChoiceField>
      )}
      {data && (
        <>
          <p>
            {becomes
              ? `${counted(data.dossiers, 'other dossier')} would show it too.`
              : `${counted(data.dossiers, 'other dossier')} would show it no more.`}
            {data.sameName > 0 &&
              ` ${counted(data.sameName, 'dossier has', 'dossiers have')} a folder of that name of their own: it stays beside this one.`}
          </p>
          <Consequences {...data} />
        </>
      )}
      {(forecast.error ?? set.error) && (
        <p role="alert" className="mt-3 text-ember-ink">
          {saysOf(forecast.error ?? set.error)}
        </p>
      )}
      <DialogActs>
        <Button look="main" disabled={!data || set.isPending} onClick={make}>
          {becomes ? 'Make it common' : 'Make it that dossier’s only'}
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}
