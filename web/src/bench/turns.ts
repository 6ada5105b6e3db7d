/**
 * What is being made at the Bench of what was typed: fields first, and the rules that may speak of them. Whoever goes on with the form
 * waits for it, so that what was typed ahead counts as if it had been waited for.
 */
export class Turns {
  private fields: Promise<unknown> = Promise.resolve();
  private rules: Promise<unknown> = Promise.resolve();

  /** @param saved saves what was changed besides */
  constructor(private readonly saved: () => Promise<void>) {}

  /** Fields are being made until then. */
  field(made: Promise<unknown>) {
    this.fields = Promise.allSettled([this.fields, made]);
  }

  /** Rules are being made until then. */
  rule(made: Promise<unknown>) {
    this.rules = Promise.allSettled([this.rules, made]);
  }

  /** Over when every field that was typed is made, and all is saved. */
  settled = async (): Promise<void> => {
    for (let awaited: unknown; awaited !== this.fields; ) {
      awaited = this.fields;
      await this.fields;
      await this.saved();
    }
  };

  /** Over when every rule is made too. */
  over = async (): Promise<void> => {
    for (let awaited: unknown; awaited !== this.rules; ) {
      awaited = this.rules;
      await this.rules;
    }
    await this.settled();
  };
}
