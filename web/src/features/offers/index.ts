export { OfferList } from "./OfferList";
export { SayForm } from "./SayForm";
export { ANSWERS, useOfferChanges, useOffers, type Answer } from "./useOffers";
