/** What the choice of delivery says. */
export interface ChoiceWords {
  choose: string
  pick: string
  waiting: string
  away: string
  again: string
  nothing: string
  needs: string
  ships: string
  unavailable: string
  /** Above the goods that keep the others from being sent. */
  held: string
  /** What there is without some goods. */
  without: (goods: string, method: string, price: string) => string
  others: string
  now: (name: string, price: string, before: string) => string
  gone: (name: string) => string
  /** Why a method is not there, by the door's code; `other` for all that shoppers can do nothing about. */
  causes: Record<string, string> & { other: string }
}

const same = (words: string, ...codes: string[]) => Object.fromEntries(codes.map((code) => [code, words]))

function causes(
  words: Record<'goods' | 'heavy' | 'large' | 'beyond' | 'place' | 'later' | 'address' | 'other', string>,
) {
  return {
    ...same(words.goods, 'line_barred', 'not_carried', 'cell_none'),
    ...same(words.heavy, 'too_heavy'),
    ...same(words.large, 'no_box'),
    ...same(words.beyond, 'beyond'),
    ...same(words.place, 'outside_areas', 'address_decides'),
    ...same(words.later, 'closed', 'after_cutoff'),
    ...same(words.address, 'address_open'),
    other: words.other,
  }
}

export const CHOICE_WORDS: { en: ChoiceWords } & Record<string, ChoiceWords> = {
  en: {
    choose: 'Delivery',
    pick: 'Choose a delivery',
    waiting: 'Looking …',
    away: 'Delivery can’t be worked out just now. Your basket is kept: try again in a moment.',
    again: 'Try again',
    nothing: 'There is no delivery to this address.',
    needs: 'Complete the address to see what there is.',
    ships: 'This needs no delivery.',
    unavailable: 'Not for this basket',
    held: 'Not all of this basket can be sent together.',
    without: (goods, method, price) => `Without ${goods}: ${method}, ${price}.`,
    others: 'Prices of delivery have changed.',
    now: (name, price, before) => `${name} is now ${price} instead of ${before}.`,
    gone: (name) => `${name} is no longer possible. Choose again.`,
    causes: causes({
      goods: 'does not take some of these goods',
      heavy: 'too heavy',
      large: 'too large',
      beyond: 'not for so much',
      place: 'does not go there',
      later: 'not at this hour',
      address: 'the address decides',
      other: 'not possible for this basket',
    }),
  },
  de: {
    choose: 'Versand',
    pick: 'Versand wählen',
    waiting: 'Wird ermittelt …',
    away: 'Der Versand kann gerade nicht ermittelt werden. Der Warenkorb bleibt: bitte gleich noch einmal versuchen.',
    again: 'Noch einmal versuchen',
    nothing: 'An diese Adresse wird nicht geliefert.',
    needs: 'Mit der ganzen Adresse steht hier, was es gibt.',
    ships: 'Hierfür ist kein Versand nötig.',
    unavailable: 'Nicht für diesen Warenkorb',
    held: 'Nicht alles in diesem Warenkorb kann zusammen verschickt werden.',
    without: (goods, method, price) => `Ohne ${goods}: ${method}, ${price}.`,
    others: 'Versandpreise haben sich geändert.',
    now: (name, price, before) => `${name}: jetzt ${price} statt ${before}.`,
    gone: (name) => `${name} ist nicht mehr möglich. Bitte neu wählen.`,
    causes: causes({
      goods: 'nimmt einige dieser Artikel nicht mit',
      heavy: 'zu schwer',
      large: 'zu groß',
      beyond: 'nicht für so viel',
      place: 'liefert nicht dorthin',
      later: 'nicht zu dieser Stunde',
      address: 'hängt von der Adresse ab',
      other: 'für diesen Warenkorb nicht möglich',
    }),
  },
  fr: {
    choose: 'Livraison',
    pick: 'Choisir une livraison',
    waiting: 'Calcul en cours …',
    away: 'La livraison ne peut pas être calculée pour le moment. Votre panier est conservé : réessayez dans un instant.',
    again: 'Réessayer',
    nothing: 'Pas de livraison à cette adresse.',
    needs: 'Complétez l’adresse pour voir les possibilités.',
    ships: 'Aucune livraison n’est nécessaire.',
    unavailable: 'Pas pour ce panier',
    held: 'Tout ce panier ne peut pas être envoyé ensemble.',
    without: (goods, method, price) => `Sans ${goods} : ${method}, ${price}.`,
    others: 'Des prix de livraison ont changé.',
    now: (name, price, before) => `${name} : désormais ${price} au lieu de ${before}.`,
    gone: (name) => `${name} n’est plus possible. Choisissez à nouveau.`,
    causes: causes({
      goods: 'ne prend pas certains de ces articles',
      heavy: 'trop lourd',
      large: 'trop grand',
      beyond: 'pas pour une telle quantité',
      place: 'ne va pas à cet endroit',
      later: 'pas à cette heure',
      address: 'dépend de l’adresse',
      other: 'impossible pour ce panier',
    }),
  },
  es: {
    choose: 'Envío',
    pick: 'Elija un envío',
    waiting: 'Calculando …',
    away: 'El envío no se puede calcular ahora. Su cesta se conserva: inténtelo de nuevo en un momento.',
    again: 'Intentar de nuevo',
    nothing: 'No hay envío a esta dirección.',
    needs: 'Complete la dirección para ver las opciones.',
    ships: 'No necesita envío.',
    unavailable: 'No para esta cesta',
    held: 'No todo lo que hay en la cesta puede enviarse junto.',
    without: (goods, method, price) => `Sin ${goods}: ${method}, ${price}.`,
    others: 'Han cambiado precios de envío.',
    now: (name, price, before) => `${name}: ahora ${price} en lugar de ${before}.`,
    gone: (name) => `${name} ya no es posible. Elija de nuevo.`,
    causes: causes({
      goods: 'no lleva algunos de estos artículos',
      heavy: 'demasiado pesado',
      large: 'demasiado grande',
      beyond: 'no para tanta cantidad',
      place: 'no llega allí',
      later: 'no a esta hora',
      address: 'depende de la dirección',
      other: 'no es posible para esta cesta',
    }),
  },
}
