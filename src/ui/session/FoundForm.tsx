'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { type z } from 'zod';
import { firstKeeperSchema } from '@/core/people/contract';
import { passwordMinLength } from '@/core/people/password';
import { Button } from '../kit/button';
import { TextField } from '../kit/field';
import { saysOf, sendJson } from '../server/call';
import { signIn } from './signIn';

/** What the first keeper of an empty library fills in. */
export function FoundForm() {
  const router = useRouter();
  const [wrong, setWrong] = useState<string>();
  const form = useForm({
    resolver: zodResolver(firstKeeperSchema),
    defaultValues: { libraryName: '', name: '', email: '', password: '' },
  });
  const { errors, isSubmitting } = form.formState;

  const submit = form.handleSubmit(async (input: z.output<typeof firstKeeperSchema>) => {
    try {
      await sendJson('/api/found', input);
      await signIn(input.email, input.password);
      router.replace('/desk');
    } catch (error) {
      setWrong(saysOf(error));
    }
  });

  return (
    <form onSubmit={(event) => void submit(event)} noValidate>
      <TextField
        label="The organisation"
        help="The library carries its name."
        {...form.register('libraryName')}
        wrong={errors.libraryName?.message}
      />
      <TextField label="Your name" autoComplete="name" {...form.register('name')} wrong={errors.name?.message} />
      <TextField
        label="Your e-mail address"
        type="email"
        autoComplete="username"
        {...form.register('email')}
        wrong={errors.email?.message}
      />
      <TextField
        label="A password"
        type="password"
        autoComplete="new-password"
        help={`At least ${passwordMinLength} characters: a few words in a row are good.`}
        {...form.register('password')}
        wrong={errors.password?.message ?? wrong}
      />
      <Button type="submit" look="main" className="h-9 w-full justify-center" disabled={isSubmitting}>
        Found the library
      </Button>
    </form>
  );
}
