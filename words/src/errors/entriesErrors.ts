import type { Sentences } from './sentences';

/** What keeps an entry out of the ledger. */
export const ENTRY_ERRORS = {
  // The server, when a tablet goes on from another past; the tablet heals it under a new device number.
  'chain-broken': {
    status: 409,
    en: 'This entry does not follow the last one of its tablet. The tablet was copied or restored: it needs a new device number.',
    es: 'Esta entrada no sigue a la última de su tableta. La tableta se copió o se restauró: necesita un número de aparato nuevo.',
  },
  // The server, when an entry of the chain is missing; healed like a broken chain.
  'chain-gap': {
    status: 409,
    en: 'Entry {{came}} of this tablet came where number {{due}} was due. Send the missing ones first.',
    es: 'La entrada {{came}} de esta tableta llegó donde tocaba la número {{due}}. Envíe antes las que faltan.',
  },
  // By the schema of its kind; the field is named as the schema names it.
  'entry-invalid': {
    en: 'The entry\'s field "{{name}}" is not valid: {{reason}}.',
    es: 'El campo «{{name}}» de la entrada no vale: {{reason}}.',
  },
  // PostgreSQL keeps no letter of nothing and no half of one.
  'entry-letter-not-kept': {
    en: 'This entry holds a letter that can not be kept. Type the words again.',
    es: 'Esta entrada tiene una letra que no se puede guardar. Escriba las palabras de nuevo.',
  },
  // Reading would change it, so that what is stored would not be what was sealed.
  'entry-not-as-sealed': {
    en: 'The entry\'s field "{{name}}" would not be kept as it was sealed. Write it again without blanks at its ends.',
    es: 'El campo «{{name}}» de la entrada no se guardaría como se selló. Escríbalo de nuevo sin espacios en los extremos.',
  },
  // Its hash would depend on how it was written.
  'entry-not-canonical': {
    en: 'This entry is not in its canonical form (RFC 8785).',
    es: 'Esta entrada no está en su forma canónica (RFC 8785).',
  },
  'entry-not-json': {
    en: 'This entry is not JSON.',
    es: 'Esta entrada no es JSON.',
  },
  // Before it is read: no depth may exhaust a reader.
  'entry-too-deep': {
    en: 'This entry is nested deeper than any that is written here.',
    es: 'Esta entrada está más anidada que cualquiera que se escriba aquí.',
  },
  // Before it is read: a year of a logger is shorter.
  'entry-too-long': {
    en: 'This entry is longer than any that is written here.',
    es: 'Esta entrada es más larga que cualquiera que se escriba aquí.',
  },
  // Within one shower; the same entry again is no error.
  'id-taken': {
    status: 409,
    en: 'An entry with this id but other content is already stored. Nothing was changed.',
    es: 'Ya hay una entrada con este identificador y otro contenido. No se cambió nada.',
  },
  // Of a later program; never guessed at.
  'kind-unknown': {
    en: 'This program does not know entries of kind "{{kind}}". Update it, then try again.',
    es: 'Este programa no conoce entradas del tipo "{{kind}}". Actualícelo e inténtelo de nuevo.',
  },
  // Of a later program; never guessed at.
  'version-too-new': {
    en: 'Entries "{{kind}}" of version {{version}} come from a later program. Update this one, then try again.',
    es: 'Las entradas "{{kind}}" de la versión {{version}} vienen de un programa posterior. Actualice este e inténtelo de nuevo.',
  },
} as const satisfies Record<string, Sentences>;
