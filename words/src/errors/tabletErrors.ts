import type { Sentences } from './sentences';

/** What a tablet says by itself, without a server. */
export const TABLET_ERRORS = {
  offline: {
    status: 503,
    en: 'No connection. What you enter is kept on this tablet.',
    es: 'Sin conexión. Lo que entre queda guardado en esta tableta.',
  },
  // Something between tablet and server answered in its place.
  'server-answered': {
    status: 500,
    en: 'The server answered {{status}}. Nothing you typed is lost.',
    es: 'El servidor respondió {{status}}. No se pierde nada de lo que escribió.',
  },
  // The browser gives no more room; what was typed stays in its field.
  'tablet-full': {
    en: 'This tablet is full. Remove something else from it, or send what waits here; then enter this again.',
    es: 'Esta tableta está llena. Quite otra cosa de ella, o envíe lo que espera aquí; después entre esto de nuevo.',
  },
  unforeseen: {
    status: 500,
    en: 'Something went wrong on this tablet. Nothing you typed is lost. Tell us this: {{detail}}',
    es: 'Algo salió mal en esta tableta. No se pierde nada de lo que escribió. Díganos esto: {{detail}}',
  },
} as const satisfies Record<string, Sentences>;
