'use client';

import { useState } from 'react';
import { Button } from '../kit/button';

/** One press, and no more mails about what someone follows. */
export function StopForm({ personId, mark }: { readonly personId: string; readonly mark: string }) {
  const [state, setState] = useState<'asked' | 'sending' | 'stopped' | 'refused'>('asked');
  const stop = () => {
    setState('sending');
    fetch('/api/stop', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ personId, mark }),
    }).then(
      (answer) => setState(answer.ok ? 'stopped' : 'refused'),
      () => setState('refused'),
    );
  };
  if (state === 'stopped') return <p role="status">They are stopped. Under My account they can be had again.</p>;
  return (
    <>
      {state === 'refused' && (
        <p role="alert" className="mb-3 text-ember-ink">
          This link is not one of ours any more. Sign in and stop them under My account.
        </p>
      )}
      <Button look="main" disabled={state === 'sending'} onClick={stop}>
        Stop these mails
      </Button>
    </>
  );
}
