import { twoFactorClient } from 'better-auth/client/plugins';
import { createAuthClient } from 'better-auth/react';
import { issue, type IssueKind } from '@/core/errors/issue';
import { Refusal } from '@/core/errors/refusal';
import { forgetKept } from '../offline/kept';

const client = createAuthClient({ plugins: [twoFactorClient()] });

interface Answer<T> {
  readonly data: T | null;
  readonly error: { readonly status: number; readonly title?: string } | null;
}

/** What came back, or the refusal that it means: `otherwise` where no more is known than that it was not right. */
async function told<T>(asked: Promise<Answer<T>>, otherwise: IssueKind): Promise<T | null> {
  const { data, error } = await asked.catch(() => {
    throw new Refusal(issue('unavailable'));
  });
  if (!error) return data;
  // A refusal of ours says itself what is to be said.
  if (error.status === 429) throw new Refusal(issue('too-many', error.title));
  if (error.status === 422) throw new Refusal(issue('invalid', error.title));
  if (error.status >= 500 || error.status === 0) throw new Refusal(issue('unavailable'));
  throw new Refusal(issue(otherwise));
}

/** Signs in; `code` where the second step is still to come. Refused without saying which of the two is wrong. */
export async function signIn(email: string, password: string): Promise<'in' | 'code'> {
  const data = await told(client.signIn.email({ email: email.trim(), password }), 'wrong-password');
  return data && 'twoFactorRedirect' in data ? 'code' : 'in';
}

/** The second step: six digits from the telephone, or a recovery code, which is used up by it. */
export async function giveCode(code: string): Promise<void> {
  const plain = code.replaceAll(' ', '');
  await told<unknown>(
    /^\d{6}$/u.test(plain)
      ? client.twoFactor.verifyTotp({ code: plain })
      : client.twoFactor.verifyBackupCode({ code: plain }),
    'wrong-code',
  );
}

/** Ends the session. */
export async function signOut(): Promise<void> {
  await told(client.signOut(), 'unavailable');
  await forgetKept();
}

/** Ends every session of this person, this one too. */
export async function signOutEverywhere(): Promise<void> {
  await told(client.revokeSessions(), 'unavailable');
  await forgetKept();
}

/** Changes the password and ends all other sessions. */
export async function changePassword(currentPassword: string, newPassword: string): Promise<void> {
  await told(client.changePassword({ currentPassword, newPassword, revokeOtherSessions: true }), 'wrong-password');
}

/** Has a link for a new password sent to an address, if an account has it; says nothing of whether one does. */
export async function askForNewPassword(email: string): Promise<void> {
  await told(client.requestPasswordReset({ email: email.trim() }), 'invalid');
}

/** Sets the new password that a link of such a message allows. */
export async function renewPassword(token: string, newPassword: string): Promise<void> {
  await told(client.resetPassword({ token, newPassword }), 'gone');
}

/** Begins the second step: the address for a code program, and recovery codes. It counts once a first code was right. */
export async function beginSecondStep(password: string): Promise<{ address: string; codes: readonly string[] }> {
  const data = await told(client.twoFactor.enable({ password }), 'wrong-password');
  if (!data || !('totpURI' in data)) throw new Refusal(issue('fault'));
  return { address: data.totpURI, codes: data.backupCodes };
}

/** Turns two-step sign-in off. */
export async function dropSecondStep(password: string): Promise<void> {
  await told(client.twoFactor.disable({ password }), 'wrong-password');
}

/** New recovery codes in place of all earlier ones. */
export async function newRecoveryCodes(password: string): Promise<readonly string[]> {
  return (await told(client.twoFactor.generateBackupCodes({ password }), 'wrong-password'))?.backupCodes ?? [];
}
