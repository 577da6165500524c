/** View transitions, where the page’s own CSS asks for them between pages (CSS View Transitions 2 §6). */

type Rule = CSSRule & { navigation?: string; media?: MediaList; cssRules?: CSSRuleList };
type WithTransitions = Omit<Document, 'startViewTransition'> & {
  startViewTransition?: (change: () => void) => { updateCallbackDone: Promise<void> };
};

/** Changes the page, at once or in a transition. */
export async function change(work: () => void): Promise<void> {
  const page = document as unknown as WithTransitions;
  const isWanted =
    page.startViewTransition &&
    !matchMedia('(prefers-reduced-motion:reduce)').matches &&
    [...page.styleSheets].some(asks);
  if (isWanted) await page.startViewTransition?.(work).updateCallbackDone;
  else work();
}

function asks(sheet: { cssRules?: CSSRuleList }): boolean {
  try {
    return [...((sheet.cssRules as Iterable<Rule> | undefined) ?? [])].some(
      (rule) =>
        rule.navigation === 'auto' || (!(rule.media && !matchMedia(rule.media.mediaText).matches) && asks(rule)),
    );
  } catch {
    // A sheet of another site is not ours to read.
    return false;
  }
}
