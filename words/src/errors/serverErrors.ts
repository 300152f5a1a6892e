import type { Sentences } from './sentences';

/** What the server refuses: what is not there, what is full or busy, what can’t be read. */
export const SERVER_ERRORS = {
  // In the office, when a file of another book is read into a draft.
  'another-rule-book': {
    en: 'This is the rule book "{{read}}". Choose a file of "{{newest}}".',
    es: 'Este es el libro de reglas «{{read}}». Elija un archivo de «{{newest}}».',
  },
  'backup-database-changed': {
    en: 'The database in this backup is not the one that was written. Choose another one. Nothing was changed.',
    es: 'La base de datos de esta copia no es la que se escribió. Elija otra. No se cambió nada.',
  },
  'backup-rows-unfit': {
    en: 'The rows in this backup do not fit the tables that they are of. Choose another one. Nothing was changed.',
    es: 'Las filas de esta copia no caben en las tablas a las que pertenecen. Elija otra. No se cambió nada.',
  },
  'backup-too-new': {
    en: 'This backup was made by a later version of this program. Update this one, then restore it. Nothing was changed.',
    es: 'Esta copia la hizo una versión posterior de este programa. Actualice este y restáurela después. No se cambió nada.',
  },
  // A dump of PostgreSQL is a program: it runs on the server alone, by hand.
  'backup-too-old': {
    en: 'This backup is of an earlier version, and can do whatever it likes while it is restored. If you made it yourself, restore it on the server itself: npm run restore -- FILE. Nothing was changed.',
    es: 'Esta copia es de una versión anterior y puede hacer lo que quiera mientras se restaura. Si la hizo usted, restáurela en el propio servidor: npm run restore -- FILE. No se cambió nada.',
  },
  'backup-unreadable': {
    en: 'This file is no backup that this program made, or it was cut off. Choose another one. Nothing was changed.',
    es: 'Este archivo no es una copia hecha por este programa, o está cortado. Elija otro. No se cambió nada.',
  },
  'body-not-json': {
    en: 'What was sent is not JSON.',
    es: 'Lo enviado no es JSON.',
  },
  // Two people published at once; the draft is kept.
  'changed-meanwhile': {
    status: 409,
    en: 'Version {{version}} was published meanwhile. Compare with it, then publish again.',
    es: 'Mientras tanto se publicó la versión {{version}}. Compárela y publique de nuevo.',
  },
  // More than the server allows; the tablet sets its clock and seals anew by itself.
  'clock-ahead': {
    status: 409,
    en: "This entry was written {{minutes}} minutes ahead of the server's time. The tablet sets its clock right and sends it again.",
    es: 'Esta entrada se escribió {{minutes}} minutos por delante de la hora del servidor. La tableta pone bien su reloj y la envía de nuevo.',
  },
  // A page from elsewhere sent it, with the cookie of somebody who is signed in here.
  'cross-site': {
    status: 403,
    en: 'This request did not come from the application. Reload the page and try again.',
    es: 'Esta petición no vino de la aplicación. Vuelva a cargar la página e inténtelo de nuevo.',
  },
  // With a time to try again; the tablet does.
  'database-busy': {
    status: 503,
    en: 'The database has its hands full. What you typed is kept; try again in a moment.',
    es: 'La base de datos está muy ocupada. Lo que escribió queda guardado; inténtelo de nuevo en un momento.',
  },
  // Whatever came through a proxy or by another name than this machine.
  'demo-here-only': {
    status: 403,
    en: 'This is the demo firm, whose passwords everybody knows: it answers on its own machine alone. "npm run real-firm" begins with your own firm.',
    es: 'Esta es la empresa de muestra, cuyas contraseñas conocen todos: responde solo en su propia máquina. "npm run real-firm" empieza con su empresa.',
  },
  // Nothing was written.
  'disk-full': {
    status: 507,
    en: "The server's disk is full. What you typed is kept on this tablet and goes out by itself when there is room. Tell a manager.",
    es: 'El disco del servidor está lleno. Lo que escribió queda guardado en esta tableta y saldrá solo cuando haya espacio. Avise a un gerente.',
  },
  // Pictures are refused before entries are.
  'disk-nearly-full': {
    status: 507,
    en: "The server's disk is nearly full: pictures wait on this tablet until there is room. Entries still go out. Tell a manager.",
    es: 'El disco del servidor está casi lleno: las imágenes esperan en esta tableta hasta que haya espacio. Las entradas siguen saliendo. Avise a un gerente.',
  },
  'entry-of-another-shower': {
    en: 'This entry belongs to another shower.',
    es: 'Esta entrada es de otra ducha.',
  },
  'file-book-taken': {
    status: 409,
    en: '{{book}} (version {{version}}) is another one here. Nothing was taken in.',
    es: '{{book}} (versión {{version}}) es otro aquí. No se tomó nada.',
  },
  'file-entry-changed': {
    en: 'Entry {{entry}} of {{shower}} was changed: its hash does not fit.',
    es: 'La entrada {{entry}} de {{shower}} fue cambiada: su huella no coincide.',
  },
  'file-entry-of-another': {
    en: 'Entry {{entry}} of {{shower}} belongs to another shower.',
    es: 'La entrada {{entry}} de {{shower}} es de otra ducha.',
  },
  'file-id-taken': {
    status: 409,
    en: '{{shower}} has an entry whose id is taken by another one here. Nothing was taken in.',
    es: '{{shower}} tiene una entrada cuyo identificador ya lo tiene otra aquí. No se tomó nada.',
  },
  // The signature would stand under what nobody has read.
  'head-moved': {
    status: 409,
    en: 'The record has grown since you opened it. Read it again, then sign.',
    es: 'El registro ha crecido desde que lo abrió. Léalo de nuevo y firme después.',
  },
  internal: {
    status: 500,
    en: 'Something went wrong here. Nothing you typed is lost. Tell us this number: {{id}}',
    es: 'Algo salió mal aquí. No se pierde nada de lo que escribió. Díganos este número: {{id}}',
  },
  'link-without-shower': {
    status: 404,
    en: 'The shower of this link is not here any more.',
    es: 'La ducha de este enlace ya no está aquí.',
  },
  'logo-not-arrived': {
    status: 404,
    en: 'The picture for the logo has not arrived. Choose it again.',
    es: 'La imagen del logotipo no ha llegado. Elíjala de nuevo.',
  },
  'media-unknown': {
    status: 415,
    en: 'What was sent is in a form that is not read here. Send JSON in UTF-8.',
    es: 'Lo enviado está en una forma que aquí no se lee. Envíe JSON en UTF-8.',
  },
  'no-dimensions': {
    status: 404,
    en: 'This shower has no dimensions yet, so that there is nothing to draw.',
    es: 'Esta ducha aún no tiene medidas, así que no hay nada que dibujar.',
  },
  // A restore needs a database of its own beside the one in force.
  'no-right-to-restore': {
    status: 503,
    en: 'The database server does not let this program make a database beside its own ({{detail}}). Give it the right CREATEDB, then try again.',
    es: 'El servidor de la base de datos no deja a este programa crear una base junto a la suya ({{detail}}). Dele el derecho CREATEDB e inténtelo de nuevo.',
  },
  'no-room-for-file': {
    status: 413,
    en: 'There is no room for this file on the server. Make room, then try again. Nothing was changed.',
    es: 'No hay espacio para este archivo en el servidor. Haga espacio e inténtelo de nuevo. No se cambió nada.',
  },
  'no-rule-book': { status: 404, en: 'The firm has no rule book yet.', es: 'La empresa aún no tiene libro de reglas.' },
  'no-such-address': { status: 404, en: 'There is nothing at this address.', es: 'No hay nada en esta dirección.' },
  'no-such-job': { status: 404, en: 'There is no job of this name.', es: 'No hay ninguna obra con este nombre.' },
  'no-such-part': { status: 400, en: 'The file does not have this part.', es: 'El archivo no tiene esta parte.' },
  'no-such-picture': { status: 404, en: 'There is no such picture.', es: 'No hay tal imagen.' },
  'no-such-shower': { status: 404, en: 'There is no such shower.', es: 'No hay tal ducha.' },
  'no-such-version': {
    status: 404,
    en: 'There is no such version of the rule book.',
    es: 'No hay tal versión del libro de reglas.',
  },
  'no-token': { status: 401, en: 'Show the token for this.', es: 'Muestre la clave para esto.' },
  'no-water': {
    status: 404,
    en: 'No water stands in this shower now, so that there is nothing to read.',
    es: 'Ahora no hay agua en esta ducha, así que no hay nada que leer.',
  },
  'not-a-picture': {
    status: 415,
    en: 'This file is not a JPEG, PNG or WebP picture. Take it again with the camera.',
    es: 'Este archivo no es una imagen JPEG, PNG o WebP. Tómela de nuevo con la cámara.',
  },
  'not-a-signature': {
    en: 'Only a signature can be sent here.',
    es: 'Aquí solo se puede enviar una firma.',
  },
  'not-ready': { status: 503, en: 'The database does not answer.', es: 'La base de datos no responde.' },
  'paper-too-heavy': {
    en: 'This paper took too long or too much memory, and was stopped.',
    es: 'Este documento tardó demasiado o pidió demasiada memoria, y se detuvo.',
  },
  'papers-busy': {
    status: 503,
    en: 'Many papers are being made. Try again in a moment.',
    es: 'Se están haciendo muchos documentos. Inténtelo de nuevo en un momento.',
  },
  'picture-empty': {
    status: 415,
    en: 'The picture is empty. Take it again.',
    es: 'La imagen está vacía. Tómela de nuevo.',
  },
  // Its bytes are gone or changed on the disk; any tablet that has them mends it.
  'picture-lost': {
    status: 410,
    en: 'This picture is not whole on the server any more. A tablet that still has it sends it again; else it is in a backup.',
    es: 'Esta imagen ya no está entera en el servidor. Una tableta que aún la tenga la envía de nuevo; si no, está en una copia de seguridad.',
  },
  // The picture and nothing else is taken.
  'picture-metadata': {
    en: 'This picture carries camera data that may tell a place or a person. Send it re-encoded, without metadata.',
    es: 'Esta imagen lleva datos de la cámara que pueden decir un lugar o una persona. Envíela codificada de nuevo, sin metadatos.',
  },
  // It is not the one that its hash says.
  'picture-mismatch': {
    en: 'The picture arrived changed. Send it again.',
    es: 'La imagen llegó cambiada. Envíela de nuevo.',
  },
  'picture-not-arrived': { status: 404, en: 'This picture has not arrived yet.', es: 'Esta imagen aún no ha llegado.' },
  'picture-tail': {
    en: 'Something is hidden behind the end of this picture. Send it re-encoded.',
    es: 'Hay algo escondido detrás del final de esta imagen. Envíela codificada de nuevo.',
  },
  'pictures-away': {
    status: 503,
    en: 'The store of pictures does not answer now. It is tried again by itself.',
    es: 'El almacén de imágenes no responde ahora. Se intenta de nuevo solo.',
  },
  // A record is signed over every picture that it names.
  'pictures-pending': {
    status: 409,
    en: '{{count}} pictures have not arrived yet. Let the tablet send them, then sign.',
    es: 'Faltan por llegar {{count}} imágenes. Deje que la tableta las envíe y firme después.',
  },
  'request-not-kept': {
    en: 'Something in this request can not be kept: a letter, a number or a day that is none.',
    es: 'Algo de esta petición no se puede guardar: una letra, un número o un día que no existe.',
  },
  'request-unreadable': {
    status: 400,
    en: 'This request can not be read. Check the address and what was sent.',
    es: 'Esta petición no se puede leer. Revise la dirección y lo que se envió.',
  },
  'restore-broken-off': {
    status: 503,
    en: 'The restore was broken off. Nothing was changed. Try again.',
    es: 'La restauración se interrumpió. No se cambió nada. Inténtelo de nuevo.',
  },
  'restore-failed': {
    status: 500,
    en: 'The backup could not be restored: {{detail}}. What was in force still is.',
    es: 'La copia no se pudo restaurar: {{detail}}. Sigue en vigor lo que lo estaba.',
  },
  'restore-running': {
    status: 409,
    en: 'A backup is being restored already. Wait until it is in force.',
    es: 'Ya se está restaurando una copia. Espere hasta que esté en vigor.',
  },
  // Time heals it: the first entry comes from another tablet.
  'shower-not-sent-first': {
    status: 404,
    en: 'There is no such shower on the server. Its first entry must be sent first.',
    es: 'No hay tal ducha en el servidor. Su primera entrada se debe enviar antes.',
  },
  // Its process was ended.
  'sum-too-heavy': {
    en: 'This sum was stopped after {{seconds}} seconds or {{megabytes}} MB. Ask for less: fewer readings, a coarser grid, a shorter time.',
    es: 'Esta cuenta se detuvo después de {{seconds}} segundos o {{megabytes}} MB. Pida menos: menos lecturas, una cuadrícula más gruesa, un tiempo más corto.',
  },
  'sums-busy': {
    status: 503,
    en: 'Many sums are being worked out. Try again in a moment.',
    es: 'Se están calculando muchas cuentas. Inténtelo de nuevo en un momento.',
  },
  'too-large': {
    status: 413,
    en: 'This is too large: pictures may have 12 MB, lists of entries 8 MB, forms before signing in 10 kB. Send less at a time.',
    es: 'Es demasiado grande: las imágenes pueden tener 12 MB, las listas de entradas 8 MB, los formularios antes de entrar 10 kB. Envíe menos de una vez.',
  },
  'too-many': {
    status: 429,
    en: 'Too many tries in a minute. Wait a moment, then try again.',
    es: 'Demasiados intentos en un minuto. Espere un momento e inténtelo de nuevo.',
  },
} as const satisfies Record<string, Sentences>;
