import type { Sentences } from './sentences';

/** Who may do what: signing in, roles, crews, links, decisions. */
export const PEOPLE_ERRORS = {
  // A crew lead sees the showers of one crew.
  'another-crews-shower': {
    status: 403,
    en: 'This shower belongs to another crew.',
    es: 'Esta ducha es de otra cuadrilla.',
  },
  'another-crews-work': {
    status: 403,
    en: 'You can say work is done for your own crew only.',
    es: 'Solo puede decir que el trabajo está hecho por su propia cuadrilla.',
  },
  // Corrections of others are for managers.
  'another-persons-entry': {
    status: 403,
    en: 'You can correct your own entries only. Ask a manager.',
    es: 'Solo puede corregir sus propias entradas. Pregunte a un gerente.',
  },
  // An account got another name; the tablet seals what was not taken anew under it.
  'author-renamed': {
    status: 409,
    en: 'This entry says that {{written}} wrote it, and your account is called {{name}}. The tablet seals it again under that name.',
    es: 'Esta entrada dice que la escribió {{written}}, y su cuenta se llama {{name}}. La tableta la sella de nuevo con ese nombre.',
  },
  'crew-not-for-role': {
    en: 'Only a crew lead belongs to a crew. Choose no crew, or another role.',
    es: 'Solo un jefe de cuadrilla pertenece a una cuadrilla. No elija cuadrilla, o elija otra función.',
  },
  // It is closed by evidence, never by words.
  'defect-stops-work': {
    status: 403,
    en: 'This defect stops the work. Build it again or look at each of its places anew, then close it; or ask a manager.',
    es: 'Este defecto detiene el trabajo. Hágalo de nuevo o mire otra vez cada uno de sus lugares y ciérrelo después; o pregunte a un gerente.',
  },
  'answers-missing': {
    en: 'Say what went wrong, and why the check before did not catch it, and close it then; "Not known" is an answer to both.',
    es: 'Diga qué salió mal y por qué la revisión anterior no lo detectó, y ciérrelo entonces; «No se sabe» es una respuesta a ambas.',
  },
  'manager-hands-over': {
    status: 403,
    en: 'Only a manager hands a shower to another crew. Ask a manager to do it under the dimensions of the shower.',
    es: 'Solo un gerente entrega una ducha a otra cuadrilla. Pida a un gerente que lo haga en las medidas de la ducha.',
  },
  'no-such-mark': {
    status: 404,
    en: 'This mark is not there any more. Open the page again.',
    es: 'Esta marca ya no existe. Abra la página de nuevo.',
  },
  'no-such-blind-look': {
    status: 404,
    en: 'This blind look is not there any more. Open the list again.',
    es: 'Esta mirada a ciegas ya no existe. Abra la lista de nuevo.',
  },
  'blind-look-alone': {
    en: 'Choose two different inspectors: nobody can agree with themselves.',
    es: 'Elija dos inspectores distintos: nadie puede coincidir consigo mismo.',
  },
  'blind-look-nothing': {
    en: 'The record already says something of each of these places. Ask another question, or at another stage.',
    es: 'El registro ya dice algo de cada uno de estos lugares. Haga otra pregunta, o en otra etapa.',
  },
  'blind-look-answered': {
    status: 409,
    en: 'You have answered this blind look. What was answered blind is not changed afterwards; a defect is recorded on the shower itself.',
    es: 'Ya respondió a esta mirada a ciegas. Lo que se respondió a ciegas no se cambia después; un defecto se registra en la ducha misma.',
  },
  'blind-look-places': {
    status: 409,
    en: 'The places that are asked have changed. Open the blind look again and answer each place.',
    es: 'Los lugares que se preguntan han cambiado. Abra otra vez la mirada a ciegas y responda cada lugar.',
  },
  'no-such-table': {
    status: 404,
    en: 'This table is not there any more. Open the page again.',
    es: 'Esta tabla ya no existe. Abra la página de nuevo.',
  },
  'old-table-empty': {
    en: 'No row of this table can be taken. Its first line must be headings; choose which columns hold the day and the kind of defect.',
    es: 'Ninguna fila de esta tabla se puede tomar. La primera línea debe ser de encabezados; elija qué columnas tienen el día y el tipo de defecto.',
  },
  'old-table-long': {
    en: 'The table has {{rows}} rows; {{most}} are taken in one go. Take it in parts.',
    es: 'La tabla tiene {{rows}} filas; se toman {{most}} de una vez. Tómela por partes.',
  },
  'old-table-rows': {
    en: '{{count}} rows can’t be taken as they are. Put them right in the table, say what their words mean, or say that they are left out.',
    es: '{{count}} filas no se pueden tomar como están. Corríjalas en la tabla, diga qué significan sus palabras, o diga que se dejan fuera.',
  },
  'entries-of-several': {
    en: 'Hand in the entries of one person at a time.',
    es: 'Entregue las entradas de una sola persona a la vez.',
  },
  'inspector-unknown': {
    en: 'Choose an inspector or a manager of the firm who can sign in.',
    es: 'Elija un inspector o un gerente de la empresa que pueda entrar.',
  },
  // Nobody could let anybody in again.
  'last-manager': {
    status: 409,
    en: 'This is the last manager. Make somebody else a manager first.',
    es: 'Es el último gerente. Haga antes gerente a otra persona.',
  },
  'lead-needs-crew': {
    en: 'A crew lead needs a crew. Choose one from the list.',
    es: 'Un jefe de cuadrilla necesita una cuadrilla. Elija una de la lista.',
  },
  'lead-without-crew': {
    en: '{{name}} leads a crew. Name one of the crews in the same line.',
    es: '{{name}} dirige una cuadrilla. Nombre una de las cuadrillas en la misma línea.',
  },
  // Also for a code that never was one.
  'link-ended': {
    status: 410,
    en: 'This link is not valid, or not any more. Ask the firm for a new one.',
    es: 'Este enlace no vale, o ya no vale. Pida uno nuevo a la empresa.',
  },
  'link-has-no-password': {
    status: 403,
    en: 'You came by a link, which has no password. Ask a manager.',
    es: 'Usted llegó por un enlace, que no tiene contraseña. Pregunte a un gerente.',
  },
  // Whoever found it does not talk it down alone.
  'manager-decides': { status: 403, en: 'This is for a manager to decide.', es: 'Esto lo decide un gerente.' },
  'manager-makes-milder': {
    status: 403,
    en: 'Only a manager makes a defect milder. Keep its severity, or ask a manager.',
    es: 'Solo un gerente hace más leve un defecto. Deje su gravedad, o pregunte a un gerente.',
  },
  // A later first stage would hide what was seen.
  'manager-pins': {
    status: 403,
    en: 'Something was seen by the rules that are pinned. Only a manager pins a later first stage or another method.',
    es: 'Algo ya se vio con las reglas fijadas. Solo un gerente fija una primera etapa posterior u otro método.',
  },
  // What was found is taken back by somebody else than its finder.
  'manager-takes-back': {
    status: 403,
    en: 'Only a manager takes back a defect or makes it milder. Ask one.',
    es: 'Solo un gerente retira un defecto o lo hace más leve. Pregunte a uno.',
  },
  // Something speaks against it by now.
  'manager-upholds': {
    status: 403,
    en: 'Only a manager upholds a contested release. Reopen the stage and put it right, or ask a manager.',
    es: 'Solo un gerente mantiene una liberación discutida. Reabra la etapa y corríjala, o pregunte a un gerente.',
  },
  'crew-not-standing': {
    status: 409,
    en: 'This crew is part of another one by now. Choose a crew that stands.',
    es: 'Esta cuadrilla ya es parte de otra. Elija una cuadrilla que siga.',
  },
  'crew-into-itself': {
    en: 'Choose another crew for it to become part of.',
    es: 'Elija otra cuadrilla de la que pase a ser parte.',
  },
  'crew-has-showers': {
    status: 409,
    en: '{{count}} showers that are not signed belong to this crew. Hand them to another crew first, each under its dimensions: {{names}}.',
    es: '{{count}} duchas sin firmar pertenecen a esta cuadrilla. Entréguelas antes a otra, cada una en sus medidas: {{names}}.',
  },
  'no-such-crew': { status: 404, en: 'There is no such crew.', es: 'No hay tal cuadrilla.' },
  'no-such-link': { status: 404, en: 'There is no such link.', es: 'No hay tal enlace.' },
  'no-such-person': { status: 404, en: 'There is no such person.', es: 'No hay tal persona.' },
  'not-signed-in': {
    status: 401,
    en: 'Sign in first. What you typed is kept on this tablet.',
    es: 'Entre primero. Lo que escribió queda guardado en esta tableta.',
  },
  'password-not-in-force': {
    status: 401,
    en: 'This is not the password in force. Type it again.',
    es: 'Esta no es la contraseña vigente. Escríbala de nuevo.',
  },
  'password-wrong': {
    status: 401,
    en: 'That is not your password. Type it again to sign.',
    es: 'Esa no es su contraseña. Escríbala de nuevo para firmar.',
  },
  // Handing in is for those who can not.
  'person-can-sign-in': {
    status: 403,
    en: 'This person can still sign in and send these entries. Disable them first, or let them sign in on this tablet.',
    es: 'Esta persona todavía puede entrar y enviar estas entradas. Desactívela antes, o deje que entre en esta tableta.',
  },
  // The entry carries the role that it was written in.
  'role-changed': {
    status: 403,
    en: 'This entry was written as {{written|role}}, and you are {{role|role}} now. Write it again.',
    es: 'Esta entrada se escribió como {{written|role}}, y usted es {{role|role}} ahora. Escríbala de nuevo.',
  },
  'role-may-not': { status: 403, en: 'Your role may not do this.', es: 'Su función no puede hacer esto.' },
  'role-may-not-write': {
    status: 403,
    en: 'Your role ({{role|role}}) may not write "{{kind}}".',
    es: 'Su función ({{role|role}}) no puede escribir "{{kind}}".',
  },
  // Wrong, used or too old, told in one breath.
  'set-up-code-wrong': {
    status: 403,
    en: 'This is not the code. It stands in the window or the log of the server, and is good for a day; "npm run first-manager" makes a new one.',
    es: 'Este no es el código. Está en la ventana o el registro del servidor y vale un día; "npm run first-manager" hace uno nuevo.',
  },
  'set-up-done': {
    status: 409,
    en: 'This installation is set up already. Sign in, or ask your manager.',
    es: 'Esta instalación ya está preparada. Entre, o pregunte a su gerente.',
  },
  // The same for a name that nobody has.
  'sign-in-failed': {
    status: 401,
    en: 'Name and password do not match. Check both and try again.',
    es: 'El nombre y la contraseña no corresponden. Revise los dos e inténtelo de nuevo.',
  },
  'sign-in-taken': {
    status: 409,
    en: 'Somebody signs in as "{{name}}" already. Choose another name.',
    es: 'Alguien ya entra como «{{name}}». Elija otro nombre.',
  },
  'sign-in-twice': {
    status: 409,
    en: 'Two people would sign in as "{{name}}". Give one of them another name.',
    es: 'Dos personas entrarían como «{{name}}». Dé otro nombre a una de ellas.',
  },
  // What was signed is not taken back.
  'signature-stands': {
    status: 403,
    en: 'A signature stands. Sign the record anew when it has grown.',
    es: 'Una firma queda. Firme de nuevo el registro cuando haya crecido.',
  },
  // A tablet that several people use keeps a chain for each.
  'written-by-another': {
    status: 403,
    en: 'This entry was written by {{name}}. Sign in as that person to send it.',
    es: 'Esta entrada la escribió {{name}}. Entre como esa persona para enviarla.',
  },
} as const satisfies Record<string, Sentences>;
