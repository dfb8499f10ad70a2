'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { type z } from 'zod';
import { joinSchema } from '@/core/people/contract';
import { passwordMinLength } from '@/core/people/password';
import { Button } from '../kit/button';
import { TextField } from '../kit/field';
import { saysOf, sendJson } from '../server/call';
import { signIn } from './signIn';

/** What someone invited fills in. */
export function JoinForm({
  token,
  name,
  email,
}: {
  readonly token: string;
  readonly name: string;
  readonly email: string;
}) {
  const router = useRouter();
  const [wrong, setWrong] = useState<string>();
  const form = useForm({ resolver: zodResolver(joinSchema), defaultValues: { token, name, password: '' } });
  const { errors, isSubmitting } = form.formState;

  const submit = form.handleSubmit(async (input: z.output<typeof joinSchema>) => {
    try {
      await sendJson('/api/join', input);
      await signIn(email, input.password);
      router.replace('/desk');
    } catch (error) {
      setWrong(saysOf(error));
    }
  });

  return (
    <form onSubmit={(event) => void submit(event)} noValidate>
      <TextField label="Your name" autoComplete="name" {...form.register('name')} wrong={errors.name?.message} />
      <TextField
        label="A password"
        type="password"
        autoComplete="new-password"
        help={`At least ${passwordMinLength} characters: a few words in a row are good.`}
        {...form.register('password')}
        wrong={errors.password?.message ?? wrong}
      />
      <Button type="submit" look="main" className="h-9 w-full justify-center" disabled={isSubmitting}>
        Join the library
      </Button>
    </form>
  );
}
