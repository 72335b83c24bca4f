export { findPartsFault, loadBundlesOf, loadParts, setParts } from './bundles';
export {
  type ChangeSetRow,
  closeChangeSet,
  countChangeSets,
  groupByItem,
  type LeftAs,
  loadChangeCells,
  loadChangeSet,
  loadChangeSets,
  loadKept,
  loadSetItems,
  loadSameDeed,
  openChangeSet,
  recordAdded,
  recordChangeSet,
  recordSelected,
  shareDeed,
} from './change-sets';
export {
  dayColumns,
  getStock,
  listColumns,
  marginSql,
  moneyColumns,
  productFrom,
  type ProductRow,
  productSelect,
  selectProduct,
  textColumns,
  toFields,
  toGtin14,
} from './fields';
export { loadFamilies, moveToFamilies, setFamilyAxes } from './family';
export { leaveEntries, noteLeftEntries, standsSql, wasSentSql } from './left-entries';
export { type ListedRows, listRows, type ProductFilter } from './list';
export {
  loadFacets,
  loadProduct,
  loadProductRows,
  loadProducts,
  loadProductsOf,
  loadProductsWith,
  lockProducts,
} from './queries';
export { loadCatalogCounts } from './tallies';
export { insertProducts, type NewProduct, setStock, updateProducts } from './write';
