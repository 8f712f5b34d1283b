export { useDeliveries } from "./useDeliveries";
