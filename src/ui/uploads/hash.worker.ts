import { expose } from 'comlink';
import { sumOf } from './sumOf';

/** Computes a file's SHA-256 in hexadecimal, away from the screen's thread. */
const hashFile = (file: File): Promise<string> => sumOf(file);

export type HashFile = typeof hashFile;

expose(hashFile);
