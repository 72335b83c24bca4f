export { bumpRevision, loadCorrespondences, loadMarket, loadMarketById, loadMarkets, type Market } from './load';
export { linkToEntry, openMarketPort } from './port';
export { loadRates, storeRate } from './rates';
export { addMarketRoutes } from './routes';
export { makeStraightPass } from './straight-pass';
