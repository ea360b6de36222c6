import type { Locator, Page } from "@playwright/test";
import { choose } from "./bench";

/** Counts what a user does: a click, a key, a text typed are one action each. */
export class Effort {
  count = 0;

  constructor(private page: Page) {}

  async click(at: Locator) {
    this.count++;
    await at.click();
  }

  /** Something that is one action and needs a way of its own. */
  async act(what: () => Promise<unknown>) {
    this.count++;
    await what();
  }

  async fill(at: Locator, text: string) {
    this.count++;
    await at.fill(text);
  }

  /** A choice out of a list that opens is one action. */
  async choose(at: Locator, label: string) {
    this.count++;
    await choose(at, label);
  }

  async type(text: string) {
    this.count++;
    await this.page.keyboard.insertText(text);
  }

  async press(key: string) {
    this.count++;
    await this.page.keyboard.press(key);
  }
}
