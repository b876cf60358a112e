import { createHmac, timingSafeEqual } from 'node:crypto'

/** Seconds that a message may be old, or come from a clock that is ahead. */
const TOLERANCE = 300

/**
 * What is no message of this shop, or came too late or twice. Answer 400 to it; for one that came twice answer 204,
 * since it has been dealt with.
 */
export class Refused extends Error {
  constructor(
    message: string,
    /** Whether it was taken before. */
    readonly again = false,
  ) {
    super(message)
  }
}

export type Message = { type: string; timestamp: string; data: Record<string, unknown> }

/** Ids of messages that were taken: `add` says whether an id is new. Where several processes receive, keep them in a database. */
export type Taken = { add(id: string, seconds: number): boolean | Promise<boolean> }

/** Keeps them in memory. */
export class TakenInMemory implements Taken {
  private readonly ids = new Map<string, number>()

  add(id: string, seconds: number): boolean {
    for (const [known, at] of this.ids) if (seconds - at > TOLERANCE * 2) this.ids.delete(known)
    if (this.ids.has(id)) return false
    this.ids.set(id, seconds)
    return true
  }
}

/**
 * A receiver's side of Gate Mile's webhooks, by the Standard Webhooks specification: one small file, to be copied. It
 * takes what was signed with the secret, a moment ago, and for the first time.
 */
export class GateMileWebhooks {
  private readonly key: Buffer
  private readonly taken: Taken

  /** @param secret whsec_..., as the workbench told it */
  constructor(secret: string, taken: Taken = new TakenInMemory()) {
    this.key = Buffer.from(secret.replace(/^whsec_/, ''), 'base64')
    this.taken = taken
  }

  /**
   * @param header gives a header by its name in lower case
   * @param body to the byte as it came
   * @param seconds since 1970, now
   * @throws {Refused}
   */
  async read(
    header: (name: string) => string | null | undefined,
    body: string,
    seconds = Math.floor(Date.now() / 1000),
  ): Promise<Message> {
    const [id, at, signatures] = ['webhook-id', 'webhook-timestamp', 'webhook-signature'].map((name) => header(name) ?? '')
    if (!id || !at || !signatures) throw new Refused('it is not signed')
    if (!this.signed(signatures, `${id}.${at}.${body}`)) throw new Refused('the signature is another one')
    if (!/^\d+$/.test(at) || Math.abs(seconds - Number(at)) > TOLERANCE) throw new Refused('it was sent too long ago')
    if (!(await this.taken.add(id, seconds))) throw new Refused('it was taken before', true)
    try {
      return JSON.parse(body) as Message
    } catch {
      throw new Refused('it is no JSON')
    }
  }

  /** While a secret is being replaced, a message carries several signatures. */
  private signed(signatures: string, text: string): boolean {
    const own = Buffer.from(`v1,${createHmac('sha256', this.key).update(text).digest('base64')}`)
    return signatures.split(' ').some((one) => {
      const given = Buffer.from(one)
      return given.length === own.length && timingSafeEqual(given, own)
    })
  }
}
