// By name: a whole module that is fetched late would bring everything that it could offer.
export {
  apiErrorSchema,
  boardSchema,
  cellEntriesSchema,
  createdSchema,
  curvesSchema,
  dayFileSchema,
  dayViewSchema,
  fileMatchSchema,
  importStateSchema,
  partsSchema,
  programmeChangedSchema,
  programmeViewSchema,
  rigTruthSchema,
  searchSchema,
  traceHeaderSchema,
  vehicleEntriesSchema,
} from '@gezeit/contract';
