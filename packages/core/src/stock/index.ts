export { attemptsNeeded, KNOWS_NOTHING, type PassCount, type PassPrior, priorOf } from './attempts-needed.ts';
export { type ItemStock, shoppingList, type ShoppingLine, type WantedPieces } from './shopping.ts';
export { type Lot, type Need, shortOfStock, type TakenLots, takeLots } from './take-lots.ts';
export {
  THING_WARNINGS,
  type ThingState,
  thingState,
  type ThingUse,
  type ThingWarning,
} from './thing-state.ts';
