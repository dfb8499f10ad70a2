import { randomBytes, webcrypto } from 'node:crypto';
import { BitString, Integer, Utf8String } from 'asn1js';
import { desc } from 'drizzle-orm';
import {
  AttributeTypeAndValue,
  BasicConstraints,
  Certificate,
  Extension,
  Time,
  type RelativeDistinguishedNames,
} from 'pkijs';
import { now } from '../base/clock';
import { locked, unlocked } from '../base/locked';
import { sha256Hex } from '../base/sha256';
import { db, writableDb } from '../db/client';
import { sealCertificate } from '../db/schema';

/** A certificate and its key, to seal with. */
export interface Sealer {
  readonly certificate: Certificate;
  readonly key: CryptoKey;
}

const rsa = { name: 'RSASSA-PKCS1-v1_5', hash: 'SHA-256' } as const;
/** 128 bits of security, as NIST SP 800-57 part 1 has it for RSA. */
const keyBits = 3072;
const validYears = 10;
const commonName = '2.5.4.3';

/** The certificate of this library, made at its first seal and anew before it runs out. */
export async function sealer(libraryName: string): Promise<Sealer> {
  const rows = await db().select().from(sealCertificate).orderBy(desc(sealCertificate.madeAt));
  for (const row of rows) {
    const certificate = Certificate.fromBER(Buffer.from(row.certificate, 'base64'));
    // Of a library that was moved, the key stays behind with the old secret.
    const pkcs8 = unlocked(row.sealedKey, 'seal key');
    if (pkcs8 !== null && certificate.notAfter.value > now())
      return { certificate, key: await webcrypto.subtle.importKey('pkcs8', pkcs8, rsa, false, ['sign']) };
  }
  return made(libraryName);
}

async function made(libraryName: string): Promise<Sealer> {
  const pair = await webcrypto.subtle.generateKey(
    { ...rsa, modulusLength: keyBits, publicExponent: new Uint8Array([1, 0, 1]) },
    true,
    ['sign', 'verify'],
  );
  const certificate = new Certificate();
  certificate.version = 2;
  certificate.serialNumber = new Integer({ valueHex: new Uint8Array([0x4d, ...randomBytes(15)]).buffer });
  for (const names of [certificate.subject, certificate.issuer]) name(names, libraryName);
  certificate.notBefore = new Time({ type: 0, value: now() });
  const until = new Date(now());
  until.setUTCFullYear(until.getUTCFullYear() + validYears);
  certificate.notAfter = new Time({ type: 0, value: until });
  const bits = new Uint8Array([0b1100_0000]);
  certificate.extensions = [
    new Extension({
      extnID: '2.5.29.19',
      critical: true,
      extnValue: new BasicConstraints({ cA: false }).toSchema().toBER(),
    }),
    // Digital signature and non-repudiation (RFC 5280, 4.2.1.3).
    new Extension({
      extnID: '2.5.29.15',
      critical: true,
      extnValue: new BitString({ valueHex: bits.buffer, unusedBits: 6 }).toBER(),
    }),
  ];
  await certificate.subjectPublicKeyInfo.importKey(pair.publicKey);
  await certificate.sign(pair.privateKey, 'SHA-256');
  const der = Buffer.from(certificate.toSchema(true).toBER());
  await writableDb()
    .insert(sealCertificate)
    .values({
      fingerprint: sha256Hex(der),
      certificate: der.toString('base64'),
      sealedKey: locked(Buffer.from(await webcrypto.subtle.exportKey('pkcs8', pair.privateKey)), 'seal key'),
      madeAt: now(),
    });
  return { certificate, key: pair.privateKey };
}

function name(names: RelativeDistinguishedNames, libraryName: string): void {
  names.typesAndValues.push(
    new AttributeTypeAndValue({
      type: commonName,
      value: new Utf8String({ value: `${libraryName.slice(0, 50)}, library` }),
    }),
  );
}

/** Fingerprints of all certificates with which this library has ever sealed. */
export async function ownFingerprints(): Promise<ReadonlySet<string>> {
  const rows = await db().select({ fingerprint: sealCertificate.fingerprint }).from(sealCertificate);
  return new Set(rows.map(({ fingerprint }) => fingerprint));
}
