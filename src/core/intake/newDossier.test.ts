import { detailsOf } from './newDossier';

describe('the details of a dossier for a sender who is new', () => {
  const fields = [
    { id: 'a', name: 'Contact', kind: 'text' },
    { id: 'b', name: 'E-mail', kind: 'email' },
    { id: 'c', name: 'Bank account (IBAN)', kind: 'text' },
    { id: 'd', name: 'VAT number', kind: 'text' },
  ] as const;
  // The IBAN of ISO 13616’s registry for the United Kingdom, and the VAT number of VIES’ own example for Germany, from memory.
  const newcomer = {
    name: 'Gull',
    address: 'bills@gull.example',
    identifiers: ['DE136695976', 'GB29NWBK60161331926819'],
  };

  it('are what the arrival says, each in the field that is meant for it', () => {
    expect(detailsOf(fields, newcomer)).toEqual({
      b: 'bills@gull.example',
      c: 'GB29NWBK60161331926819',
      d: 'DE136695976',
    });
  });
  it('are nothing where it says nothing, or no field is meant for it', () => {
    expect(detailsOf(fields, { name: '', address: '', identifiers: [] })).toEqual({});
    expect(detailsOf([{ id: 'a', name: 'Remarks', kind: 'text' }], newcomer)).toEqual({});
  });
});
