import type { Finding, Setup } from '../api/client'
import { counted, type Formats } from '../ui/format'
import { momentWords } from '../ui/moment'
import { list, MOMENT_NAMES, type Moment } from './words'

type Numbers = Record<string, unknown>
type Told = { text: string; mend: string }

const NEVER: Record<string, string> = {
  no_rate: 'no rate of its methods is on in any of its zones',
  no_goods: 'no goods of the catalogue bring a cart to it',
}

const OVER: Record<string, string> = {
  price: 'set two different prices',
  rename: 'give two different names',
  bounds: 'ask for more than the other allows',
  only: 'each leave only methods that the other takes away',
}

function offers(finding: Finding, n: Numbers, formats: Formats): Told | null {
  const name = `“${String(n.offer)}”`
  const money = (key: string) => formats.money(String(n[key]))
  switch (finding.code) {
    case 'offer_never':
      return {
        text: `${name} can never apply: ${NEVER[String(n.reason)]}.`,
        mend: 'Change its zones, methods or threshold, or switch it off.',
      }
    case 'offer_over':
      return {
        text: `${name} ended ${momentWords(String(n.ends))}.`,
        mend: 'Remove it, or give it a new end.',
      }
    case 'offer_spoilt':
      return {
        text: `${name} can only be reached with goods that keep the cart out of it.`,
        mend: 'Let fewer goods block it, or let them pay their own way.',
      }
    case 'offer_closes':
      return {
        text: `${name} ends at ${String(n.below)}: a bigger order pays for shipping again.`,
        mend: 'Leave the end open, or let another offer take over from there.',
      }
    case 'offer_loss': {
      const brings = n.brings ? `the goods bring ${money('brings')}` : `the goods are worth ${money('value')}`
      return {
        text: `${name} frees ${String(n.name)}${Number(n.count) > 1 ? ` and ${counted(Number(n.count) - 1, 'more product')}` : ''}, which costs ${money('cost')} to ship while ${brings}.`,
        mend: 'Let such goods block the offer or pay their own way, or raise the threshold.',
      }
    }
    case 'offer_unclassed':
      return {
        text: `${name} leaves classes out, and ${counted(Number(n.count), 'product')} without a class slip through: ${(n.names as string[]).join(', ')}.`,
        mend: 'Give them a class.',
      }
    case 'pays_more':
      return {
        text: `With ${name} a shopper who adds ${String(n.name)} for ${money('price')} pays ${money('more')} more for shipping.`,
        mend: 'Let it pay its own way instead of blocking the offer.',
      }
    case 'milepost_over': {
      const where = n.moment === 'label' ? 'name for shoppers' : MOMENT_NAMES[n.moment as Moment]
      return {
        text: `${name} says “${String(n.text)}” (${where}), but it is reached at exactly ${String(n.from)}.`,
        mend: 'Write “from” or “at least”.',
      }
    }
    case 'free_unpriced':
      return {
        text: `${String(n.rate)} carries ${counted(Number(n.count), 'product')} for nothing that have no class or no price: ${(n.names as string[]).join(', ')}.`,
        mend: 'Give them a class and a price, or a treatment that says they ship free.',
      }
    case 'coupon_unused':
      return {
        text: `No offer and no rule asks for coupon ${String(n.coupon)}.`,
        mend: 'Name it in one, or remove it.',
      }
    default:
      return null
  }
}

function rules(finding: Finding, n: Numbers): Told | null {
  const name = `“${String(n.rule)}”`
  switch (finding.code) {
    case 'rule_never':
      return {
        text: `${name} can never hold: its conditions contradict each other.`,
        mend: 'Change one of them.',
      }
    case 'rule_always':
      return {
        text: `${name} always holds, whatever the cart.`,
        mend: 'Fine if you mean it; else add a condition.',
      }
    case 'rule_hidden':
      return {
        text: `${name} never shows: whenever it holds, “${String(n.by)}” above it hides all that it changes.`,
        mend: 'Move it up, or change one of the two.',
      }
    case 'rules_fight':
      return {
        text: `${name} and “${String(n.other)}” ${OVER[String(n.over)]}${n.method ? ` for ${String(n.method)}` : ''}. The lower one wins.`,
        mend: 'Let their conditions exclude each other.',
      }
    case 'rule_open':
      return {
        text: `${name} was not checked whole: its conditions tie facts together that the audit does not look at.`,
        mend: '',
      }
    case 'all_hidden':
      return {
        text: `In ${list(n.zones as string[])} a cart can get no method at all, because of ${list((n.names as string[]).map((one) => `“${one}”`))}.`,
        mend: 'Leave at least one method.',
      }
    default:
      return null
  }
}

function live(finding: Finding, n: Numbers, formats: Formats): Told | null {
  const rate = String(n.rate)
  const some = () => `${counted(Number(n.count), 'product')}: ${(n.names as string[]).join(', ')}`
  switch (finding.code) {
    case 'live_no_fallback':
      return {
        text: `${rate} is not available when ${list(
          (n.troubles as string[]).map((one) =>
            one === 'silent' ? 'carriers are silent' : 'their answer can’t be used',
          ),
          'or',
        )}.`,
        mend: 'Give it an amount or a price of your own for that.',
      }
    case 'live_carrier_off':
      return {
        text: `${rate} asks ${list(n.names as string[])}, which is switched off.`,
        mend: 'Switch it on, or do not ask it.',
      }
    case 'live_unmeasured':
      return {
        text: `${rate} can’t be asked about ${some()}.`,
        mend: 'Say what they weigh, and where they are packed into boxes how large they are.',
      }
    case 'live_never_wins':
      return {
        text: `${rate} asked ${list(n.names as string[])} lately, and another service ${{ cheapest: 'was always cheaper', fastest: 'was always faster' }[String(n.how)] ?? 'above it always answered'}.`,
        mend: 'Fine as a reserve; else do not ask it.',
      }
    case 'live_loss':
      return {
        text: `${rate} takes ${formats.money(String(n.price))} for one ${String(n.name)} (${String(n.weight)}), and the cheapest carrier took ${formats.money(String(n.cost))} for it${Number(n.count) > 1 ? `; so it is with ${counted(Number(n.count) - 1, 'more product')}` : ''}.`,
        mend: 'Raise the price, or let a carrier price it.',
      }
    case 'live_all_refuse':
      return {
        text: n.names
          ? `Every service of ${rate} refuses ${some()}${n.said ? `: ${String(n.said)}` : ''}.`
          : `${rate} asked about a parcel of ${Number(n.grams) / 1000} kg lately, and every service refused it${n.said ? `: ${String(n.said)}` : ''}.`,
        mend: 'Ask a service that takes it, or give it a price of your own for that.',
      }
    case 'no_box_for':
      return {
        text: `No box takes ${some()}.`,
        mend: 'Add a box, or let them ship in a carton of their own.',
      }
    default:
      return null
  }
}

/** What the audit found about offers and rules; null where it is about something else. */
export function policyFindingSentence(finding: Finding, _setup: Setup, formats: Formats): Told | null {
  const numbers = finding.numbers as Numbers
  return offers(finding, numbers, formats) ?? rules(finding, numbers) ?? live(finding, numbers, formats)
}
