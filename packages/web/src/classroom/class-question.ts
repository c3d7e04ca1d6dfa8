/**
 * The question of what changed in a class: one at a time, what rings meanwhile is asked for afterwards, and one that failed is
 * asked as wholly again. `whole` says that the class itself is asked for too: its trainees, tools, methods and links.
 */
export interface ClassQuestion {
  /** Resolved when nothing is left to ask, or it failed. */
  readonly ask: () => Promise<void>;
  /** The next one asks for the class itself. */
  readonly wantWhole: () => void;
  /** Something is missing in what came: asked for once more after this one. */
  readonly askAgain: () => void;
  /** The class itself was changed here since the question that is on its way was asked. */
  readonly wantsWhole: () => boolean;
}

export function classQuestion(how: {
  /** The class that is followed; '' for none. */
  readonly classId: () => string;
  /** Nothing is known of the class yet. */
  readonly knowsNothing: () => boolean;
  readonly put: (classId: string, whole: boolean) => Promise<void>;
  readonly failed: (error: unknown) => void;
}): ClassQuestion {
  let asking = false;
  let again = false;
  let wanted = false;

  async function ask(): Promise<void> {
    if (asking) {
      again = true;
      return;
    }
    const id = how.classId();
    if (id === '') return;
    asking = true;
    let whole = false;
    try {
      do {
        again = false;
        whole = wanted || how.knowsNothing();
        wanted = false;
        await how.put(id, whole);
      } while (again && how.classId() === id);
      if (how.classId() === id) again = false;
    } catch (error) {
      wanted ||= whole;
      how.failed(error);
    } finally {
      asking = false;
    }
    // Another class was opened meanwhile: its question is still to be asked.
    if (again) {
      again = false;
      void ask();
    }
  }
  return {
    ask,
    wantWhole: () => void (wanted = true),
    askAgain: () => void (again = true),
    wantsWhole: () => wanted,
  };
}
