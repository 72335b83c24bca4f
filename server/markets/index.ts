export { bumpRevision, loadMarket, loadMarketById, loadMarkets, type Market } from './load';
export { loadCorrespondences, loadSaid } from './said';
export {
  type Brought,
  dropTemplate,
  judgeTemplate,
  keepTemplate,
  loadTemplates,
  mostTemplateBytes,
  openTemplate,
} from './templates';
export { isPrivateKey, makePrivateKey, readPublicKey } from './key-pairs';
export { forgetHost, loadHost, loadKeyDay, openFreeGate, openGate, storeKey } from './gate';
export { decodeText } from './decode';
export { type MarketPort, openMarketPort, paceOf, readWholeShelf } from './port';
export { linkToEntry } from './transports/http';
export { loadRates, storeRate } from './rates';
export { addMarketRoutes } from './routes';
export { makeStraightPass } from './straight-pass';
