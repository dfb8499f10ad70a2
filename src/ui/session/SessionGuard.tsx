'use client';

import { useEffect, useState } from 'react';
import { Dialog } from '../kit/dialog';
import { askToSignInWith } from '../server/signedOut';
import { SignInForm } from './SignInForm';

/** Where a session ends while people work: asks them to sign in over the page, so that what they typed stays. */
export function SessionGuard({ email }: { readonly email: string }) {
  const [answer, setAnswer] = useState<((signedIn: boolean) => void) | null>(null);

  useEffect(() => askToSignInWith(() => new Promise<boolean>((resolve) => setAnswer(() => resolve))), []);

  function close(signedIn: boolean) {
    answer?.(signedIn);
    setAnswer(null);
  }

  return (
    <Dialog
      title="Your session has ended"
      about="Sign in again to go on. What you typed is kept."
      open={answer !== null}
      onClose={() => close(false)}
    >
      <SignInForm email={email} onDone={() => close(true)} />
    </Dialog>
  );
}
