import { FirstProgrammes1795602780000 } from './0001-first-programmes.js';
import { SharedCellsAndEvidence1795689180000 } from './0002-shared-cells-and-evidence.js';
import { Days1795775580000 } from './0003-days.js';
import { Products1795861980000 } from './0004-products.js';
import { DeviceProfiles1796036580000 } from './0005-device-profiles.js';
import { FixedFindings1796122980000 } from './0006-fixed-findings.js';
import { Indices1796209380000 } from './0007-indices.js';
import { ChangedParts1796295780000 } from './0008-changed-parts.js';

/** Every change of the database's shape, oldest first. */
export const MIGRATIONS = [
  FirstProgrammes1795602780000,
  SharedCellsAndEvidence1795689180000,
  Days1795775580000,
  Products1795861980000,
  DeviceProfiles1796036580000,
  FixedFindings1796122980000,
  Indices1796209380000,
  ChangedParts1796295780000,
];
