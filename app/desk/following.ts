import { isLive, shorten, topicOf, type TopicId } from '#core/tree'
import type { Desk } from './desk'

/** Here together: going where somebody goes, and asking all to look where one looks. Nobody is moved who didn't ask for it. */
export class Following {
  /** Whom one follows; null: nobody. */
  readonly who = ref<string | null>(null)
  /** Where following has led: any other place was one's own choice. */
  private led: TopicId | null = null

  constructor(private readonly desk: Desk) {}

  /** Begins to follow somebody who is here, or ends it. */
  toggle(person: string, name: string): void {
    if (this.who.value === person) {
      this.end(`You don’t follow ${name} any more.`)
      return
    }
    this.who.value = person
    this.led = null
    this.desk.say(`You go where ${name} goes, until you take a step of your own.`)
    this.go()
  }

  /** People have come, gone or moved. */
  moved(): void {
    if (this.who.value === null) return
    if (this.desk.status.present.some(({ id }) => id === this.who.value)) this.go()
    else this.end('Whom you followed has left.')
  }

  /** One has gone somewhere, or begun to type. */
  stepped(): void {
    const { desk } = this
    if (this.who.value !== null && (desk.focus.value !== this.led || desk.editing.value)) this.who.value = null
  }

  private end(words: string): void {
    this.who.value = null
    this.desk.say(words)
  }

  private go(): void {
    const { desk } = this
    const person = desk.status.present.find(({ id }) => id === this.who.value)
    const topic = person?.typing ?? person?.selected[0]
    // A new topic may be heard of before it's here.
    if (!topic || topic === this.led || !isLive(desk.tree, topic)) return
    this.led = topic
    desk.visit(topic)
  }

  /** Asks everybody else who is here to look at what is selected. */
  ask(): void {
    const { desk } = this
    const others = new Set(desk.status.present.map(({ id }) => id))
    others.delete(desk.userId)
    if (!desk.session.canComment) desk.say('Your role in this tree doesn’t allow that.')
    else if (others.size === 0) desk.say('Nobody else is here just now.')
    else if (!desk.session.askToLook(desk.focus.value)) desk.say('Without a line nobody hears it.')
    else desk.say(`Asked ${others.size === 1 ? 'the other one' : `${others.size} people`} to look here.`)
  }

  /** Somebody asks to look at a topic: it's said, and a press leads there. */
  asked(name: string, topic: TopicId): void {
    const { desk } = this
    if (!desk.status.ready || !isLive(desk.tree, topic)) return
    desk.say(`${name} asks you to look at “${shorten(topicOf(desk.tree, topic).title || 'untitled', 40)}”.`, {
      name: 'Look',
      run: () => desk.journey.to(topic),
    })
  }
}
