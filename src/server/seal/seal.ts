import { createHash } from 'node:crypto';
import { ObjectIdentifier, OctetString, Sequence } from 'asn1js';
import {
  Attribute,
  ContentInfo,
  EncapsulatedContentInfo,
  IssuerAndSerialNumber,
  SignedAndUnsignedAttributes,
  SignedData,
  SignerInfo,
} from 'pkijs';
import { SignPdf } from '@signpdf/signpdf';
import { Signer } from '@signpdf/utils';
import type { Sealer } from './certificate';

const oid = {
  data: '1.2.840.113549.1.7.1',
  signedData: '1.2.840.113549.1.7.2',
  contentType: '1.2.840.113549.1.9.3',
  messageDigest: '1.2.840.113549.1.9.4',
  signingCertificateV2: '1.2.840.113549.1.9.16.2.47',
} as const;

/**
 * A seal over some bytes: CMS (RFC 5652), with the attributes that ETSI EN 319 142-1 asks of the baseline level B-B: content
 * type, message digest, and which certificate it was made with (RFC 5035); no time, which the PDF itself says.
 */
class LibrarySigner extends Signer {
  constructor(private readonly sealer: Sealer) {
    super();
  }

  override async sign(pdf: Buffer): Promise<Buffer> {
    const { certificate, key } = this.sealer;
    const digest = (bytes: Uint8Array): ArrayBuffer =>
      new Uint8Array(createHash('sha256').update(bytes).digest()).buffer;
    const der = new Uint8Array(certificate.toSchema(true).toBER());
    // ESSCertIDv2 with SHA-256, its default, which is therefore not said.
    const certificateId = new Sequence({ value: [new OctetString({ valueHex: digest(der) })] });
    const signed = new SignedData({
      version: 1,
      encapContentInfo: new EncapsulatedContentInfo({ eContentType: oid.data }),
      certificates: [certificate],
      signerInfos: [
        new SignerInfo({
          version: 1,
          sid: new IssuerAndSerialNumber({ issuer: certificate.issuer, serialNumber: certificate.serialNumber }),
          signedAttrs: new SignedAndUnsignedAttributes({
            type: 0,
            attributes: [
              new Attribute({ type: oid.contentType, values: [new ObjectIdentifier({ value: oid.data })] }),
              new Attribute({ type: oid.messageDigest, values: [new OctetString({ valueHex: digest(pdf) })] }),
              new Attribute({
                type: oid.signingCertificateV2,
                values: [new Sequence({ value: [new Sequence({ value: [certificateId] })] })],
              }),
            ],
          }),
        }),
      ],
    });
    await signed.sign(key, 0, 'SHA-256', new Uint8Array(pdf).buffer);
    const content = new ContentInfo({ contentType: oid.signedData, content: signed.toSchema(true) });
    return Buffer.from(content.toSchema().toBER(false));
  }
}

/** Puts the library's seal into the room that a bound PDF has for it. @throws if it has none, or more than one */
export const sealPdf = (bound: Buffer, sealer: Sealer): Promise<Buffer> =>
  new SignPdf().sign(bound, new LibrarySigner(sealer));
