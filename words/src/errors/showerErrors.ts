import type { Sentences } from './sentences';

/** What can’t be built: the drawing of a shower. */
export const SHOWER_ERRORS = {
  // Half of its edge would hang over a way in.
  'bench-against-no-wall': {
    en: 'A bench stands against walls only. Choose another place.',
    es: 'Un banco se apoya solo en paredes. Elija otro lugar.',
  },
  'bench-near-edge': {
    en: 'The bench ends too near an edge of the room. Let it end in the corner, or leave a gap.',
    es: 'El banco acaba demasiado cerca de un borde del cuarto. Déjelo acabar en la esquina, o deje un hueco.',
  },
  'bench-not-at-wall': {
    en: 'A bench stands along a wall. Choose one.',
    es: 'Un banco está junto a una pared. Elija una.',
  },
  'bench-not-in-corner': {
    en: 'A corner bench needs an inside corner. Choose another.',
    es: 'Un banco de esquina necesita una esquina interior. Elija otra.',
  },
  'bench-over-half-wall': {
    en: 'The bench is higher than the half wall that it stands against. Lower it, or raise the wall.',
    es: 'El banco es más alto que la media pared en que se apoya. Bájelo, o suba la pared.',
  },
  'bench-past-room': {
    en: 'The bench reaches past the room. Make it less deep or less wide.',
    es: 'El banco pasa del cuarto. Hágalo menos hondo o menos ancho.',
  },
  'bench-past-wall': {
    en: 'The bench is longer than its wall, or deeper than the wall beside it. Check its place and size.',
    es: 'El banco es más largo que su pared, o más hondo que la pared de al lado. Revise su lugar y su medida.',
  },
  'bench-place-unknown': {
    en: 'There is no such edge or corner. Choose where the bench stands.',
    es: 'No hay tal borde o esquina. Elija dónde está el banco.',
  },
  'bench-too-long': {
    en: 'The bench is longer than its wall. Check its place and width.',
    es: 'El banco es más largo que su pared. Revise su lugar y su ancho.',
  },
  'bench-underside-over-top': {
    en: 'The underside of the bench is not below its top. Check the two heights.',
    es: 'La cara inferior del banco no está debajo del asiento. Revise las dos alturas.',
  },
  // Water would stand where no drain is.
  'benches-divide-floor': {
    en: 'The benches divide the floor. Make one of them smaller.',
    es: 'Los bancos dividen el piso. Haga uno de ellos más pequeño.',
  },
  'benches-touch': {
    en: 'Two benches lie over or against each other. Leave a gap between them.',
    es: 'Dos bancos se cubren o se tocan. Deje un hueco entre ellos.',
  },
  // Drops must run to a wall and not fall on heads.
  'ceiling-falls-nowhere': {
    en: 'The ceiling must fall to a wall. Choose the wall that its drops run to.',
    es: 'El techo debe caer hacia una pared. Elija la pared hacia la que corren sus gotas.',
  },
  'curb-round-corner': {
    en: 'A curb or half wall can’t begin round the outside corner of a wall. Draw the end of that wall as an edge of its own.',
    es: 'Un bordillo o una media pared no puede empezar doblando la esquina exterior de una pared. Dibuje el extremo de esa pared como un borde propio.',
  },
  // No water would stand at all.
  'curb-under-floor': {
    en: 'The curb is not higher than the floor at its foot. Raise the curb or lower the rise.',
    es: 'El bordillo no es más alto que el piso a su pie. Suba el bordillo o baje la subida.',
  },
  // The lower one is where it runs over; draw it as one.
  'curbs-differ': {
    en: 'Two curbs that meet must have the same height.',
    es: 'Dos bordillos que se encuentran deben tener la misma altura.',
  },
  'drain-near-wall': {
    en: 'The drain does not lie inside the floor. Its centre must stay {{reach}} mm inside the walls. Check its two distances.',
    es: 'El desagüe no está dentro del piso. Su centro debe quedar {{reach}} mm dentro de las paredes. Revise sus dos distancias.',
  },
  // Measured from the inner edges.
  'drain-outside': {
    en: 'The drain does not lie inside the floor. Check its two distances.',
    es: 'El desagüe no está dentro del piso. Revise sus dos distancias.',
  },
  'drain-under-bench': {
    en: 'The drain lies under the bench. Move one of them.',
    es: 'El desagüe queda debajo del banco. Mueva uno de los dos.',
  },
  'edge-id-twice': {
    en: 'Two edges have the id "{{name}}". Give each its own.',
    es: 'Dos bordes tienen el identificador «{{name}}». Dé a cada uno el suyo.',
  },
  'edge-over-ceiling': {
    en: 'This edge is higher than the ceiling. Lower it, or raise the ceiling.',
    es: 'Este borde es más alto que el techo. Bájelo, o suba el techo.',
  },
  // A seam of less has no room for a corner on both ends.
  'edge-too-short': {
    en: 'Edge {{edge}} is shorter than 2 in (50 mm). Check its length.',
    es: 'El borde {{edge}} mide menos de 2 in (50 mm). Revise su longitud.',
  },
  // A figure of eight has no inside.
  'edges-cross': {
    en: 'Edges {{first}} and {{second}} of the footprint cross. Check the order of the points.',
    es: 'Los bordes {{first}} y {{second}} de la planta se cruzan. Revise el orden de los puntos.',
  },
  'edges-miscounted': {
    en: 'There are {{drawn}} edges in the footprint but {{described}} descriptions.',
    es: 'La planta tiene {{drawn}} bordes pero hay {{described}} descripciones.',
  },
  // Sides are told by which way they go round.
  'footprint-clockwise': {
    en: 'The footprint must run counter-clockwise. Turn the order of its points round.',
    es: 'La planta debe correr en contra del reloj. Invierta el orden de sus puntos.',
  },
  'joint-outside': {
    en: 'This joint lies outside its wall. Check where it was measured from.',
    es: 'Esta unión está fuera de su pared. Revise desde dónde se midió.',
  },
  // With its whole length.
  'line-drain-outside': {
    en: 'The line drain reaches past the floor. Check its length, its place and how it is turned.',
    es: 'El desagüe lineal pasa del piso. Revise su longitud, su lugar y cómo está girado.',
  },
  'niche-past-wall': {
    en: 'The niche reaches past the end of its wall or below its foot. A niche can’t go round a corner: check its place and size, or make two.',
    es: 'El nicho pasa del final de su pared o por debajo de su pie. Un nicho no puede doblar una esquina: revise su lugar y su medida, o haga dos.',
  },
  // There would be nothing to seal.
  'no-wall': {
    en: 'A shower needs at least one wall.',
    es: 'Una ducha necesita al menos una pared.',
  },
  'not-a-wall': {
    en: 'This edge is not a wall. Choose a wall or a half wall.',
    es: 'Este borde no es una pared. Elija una pared o una media pared.',
  },
  'opening-past-wall': {
    en: 'This opening does not fit on its wall. Check its place and size.',
    es: 'Esta abertura no cabe en su pared. Revise su lugar y su medida.',
  },
  // What is proved of one would count for the other.
  'part-name-twice': {
    en: '"{{name}}" is there twice. Give each part a name of its own.',
    es: '«{{name}}» está dos veces. Dé a cada parte un nombre propio.',
  },
  'part-over-wall': {
    en: 'This {{part|part}} reaches over the top of its wall. Lower it, or make it less high.',
    es: 'Esto pasa por encima de su pared: {{part|part}}. Bájelo, o hágalo menos alto.',
  },
  // Each needs its own seams.
  'parts-overlap': {
    en: 'This {{part|part}} and a {{other|part}} lie over each other on their wall. Move one of them.',
    es: 'Se cubren en su pared: {{part|part}} y {{other|part}}. Mueva uno de los dos.',
  },
  // With the room that a band needs.
  'shelf-unfit': {
    en: 'This shelf does not fit between the sill, the head and the other shelves. Check its height over the sill.',
    es: 'Este estante no cabe entre la repisa, el dintel y los otros estantes. Revise su altura sobre la repisa.',
  },
  'side-angle': {
    en: 'The angle after side {{side}} must lie between 1 and 359 degrees.',
    es: 'El ángulo después del lado {{side}} debe estar entre 1 y 359 grados.',
  },
  'side-without-length': {
    en: 'Side {{side}} has no length. Type what the tape says.',
    es: 'El lado {{side}} no tiene longitud. Escriba lo que dice la cinta.',
  },
  'sides-too-few': {
    en: 'A room has at least three sides. Add what is missing.',
    es: 'Un cuarto tiene al menos tres lados. Añada lo que falta.',
  },
  // The seam between them would hang in the air.
  'wall-under-ceiling': {
    en: 'This wall ends below the waterproof ceiling. Take its membrane up to the ceiling, or draw a half wall.',
    es: 'Esta pared acaba debajo del techo impermeable. Suba su membrana hasta el techo, o dibuje una media pared.',
  },
  // Water over the curb would run behind it.
  'wall-under-curb': {
    en: 'This wall is not higher than the curb beside it.',
    es: 'Esta pared no es más alta que el bordillo de al lado.',
  },
  'wall-under-half-wall': {
    en: 'This wall is not higher than the half wall beside it.',
    es: 'Esta pared no es más alta que la media pared de al lado.',
  },
} as const satisfies Record<string, Sentences>;
