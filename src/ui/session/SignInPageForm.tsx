'use client';

import { SignInForm } from './SignInForm';

/** The sign-in of a page of its own; goes on to where the person was headed. */
export const SignInPageForm = ({ next }: { readonly next: string }) => (
  <SignInForm onDone={() => window.location.assign(next)} />
);
