import { AppError } from '../errors/app-error.ts';
import { sqlStateOf, UNIQUE_VIOLATION } from './sql-state.ts';

/**
 * Makes something under an id that the client chose. Sent again with the same content it is there already and given as
 * it is; with other content it is refused, and nothing changes. `make` is a transaction of its own, or one statement.
 * Error: `request.already_there`.
 */
export async function createOnce<T>(
  make: () => Promise<T>,
  there: () => Promise<T | null>,
  same: (found: T) => boolean,
): Promise<T> {
  try {
    return await make();
  } catch (error) {
    if (sqlStateOf(error) !== UNIQUE_VIOLATION) throw error;
    const found = await there();
    if (found === null) throw error;
    if (!same(found)) throw new AppError('request.already_there');
    return found;
  }
}
