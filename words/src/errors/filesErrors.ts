import type { Sentences } from './sentences';

/** What is wrong with a file or with what an instrument sent. */
export const FILE_ERRORS = {
  // After every way to read the columns was tried.
  'air-log-unreadable': {
    en: 'No two readings could be read this way. Look at the columns, the clock and the degrees again.',
    es: 'No se pudieron leer dos lecturas de esta manera. Mire de nuevo las columnas, la hora y los grados.',
  },
  'dimensions-invalid': {
    en: 'The field "{{name}}" of the file is not valid: {{reason}}. Put it right and read it again.',
    es: 'El campo «{{name}}» del archivo no vale: {{reason}}. Corríjalo y léalo de nuevo.',
  },
  'dimensions-not-json': {
    en: 'This file is not JSON. Choose a file of dimensions that was taken out here.',
    es: 'Este archivo no es JSON. Elija un archivo de medidas que se haya sacado de aquí.',
  },
  // From the helper beside the instrument, not from the server.
  'instrument-no-pack': {
    en: 'The instrument sent no SenML pack. Check which instrument answers there.',
    es: 'El instrumento no envió ningún paquete SenML. Revise qué instrumento responde allí.',
  },
  'instrument-not-json': {
    en: 'The instrument sent something that is no JSON. Check which instrument answers there.',
    es: 'El instrumento envió algo que no es JSON. Revise qué instrumento responde allí.',
  },
  'log-empty': {
    en: 'This file has no readings in it: one line for each reading is needed.',
    es: 'Este archivo no tiene lecturas: hace falta una línea para cada una.',
  },
  'log-not-text': {
    en: 'This is not a text file. Export the readings as CSV.',
    es: 'Este no es un archivo de texto. Exporte las lecturas como CSV.',
  },
  'log-one-column': {
    en: 'This file has one column only; a time and a level are needed.',
    es: 'Este archivo tiene una sola columna; hacen falta una hora y un nivel.',
  },
  'log-too-large': {
    en: 'This file is over 20 MB. Export a shorter time from the logger.',
    es: 'Este archivo pasa de 20 MB. Exporte un tiempo más corto del registrador.',
  },
  // After every way to read the columns was tried.
  'log-unreadable': {
    en: 'No two readings could be read this way. Look at the columns, the clock and the unit again.',
    es: 'No se pudieron leer dos lecturas de esta manera. Mire de nuevo las columnas, la hora y la unidad.',
  },
  'no-dimensions-in-file': {
    en: 'This file holds no dimensions of a shower. Choose one that was taken out here.',
    es: 'Este archivo no contiene medidas de una ducha. Elija uno que se haya sacado de aquí.',
  },
  'shots-column-missing': {
    en: 'The file has no column "{{column}}". Name its columns x_mm, y_mm and z_mm.',
    es: 'El archivo no tiene la columna «{{column}}». Llame a sus columnas x_mm, y_mm y z_mm.',
  },
  'shots-file-empty': {
    en: 'The file has no shots in it: one line for each is needed.',
    es: 'El archivo no tiene puntos: hace falta una línea para cada uno.',
  },
  'shots-line-unreadable': {
    en: 'Line {{line}} of the file has no three figures. Put it right and read the file again.',
    es: 'La línea {{line}} del archivo no tiene tres cifras. Corríjala y lea el archivo de nuevo.',
  },
  'air-not-ahead': {
    en: 'Nothing in this file lies ahead of now. Take the file of the coming days.',
    es: 'Nada de este archivo está por venir. Tome el archivo de los próximos días.',
  },
} as const satisfies Record<string, Sentences>;
