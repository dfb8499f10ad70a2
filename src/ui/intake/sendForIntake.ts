import { Upload } from 'tus-js-client';
import { Refusal } from '@/core/errors/refusal';
import { issueOfSending, mayRetry, retryDelays, smallBytes } from '../uploads/sending';

/**
 * Sends a file for the intake, part by part; what is not taken for a moment is sent again.
 * @param onSent told how much of it has been sent, from 0 to 1
 * @returns the id of its upload. @throws Refusal
 */
export function sendForIntake(file: File, onSent: (part: number) => void): Promise<string> {
  const id = crypto.randomUUID();
  return new Promise((resolve, reject) => {
    new Upload(file, {
      endpoint: '/api/uploads',
      uploadDataDuringCreation: file.size <= smallBytes,
      retryDelays,
      storeFingerprintForResuming: false,
      metadata: { id, fileName: file.name, filing: 'intake' },
      onProgress: (sent, all) => onSent(all === 0 ? 1 : sent / all),
      onShouldRetry: mayRetry,
      onError: (error) => reject(new Refusal(issueOfSending(error))),
      onSuccess: () => resolve(id),
    }).start();
  });
}
