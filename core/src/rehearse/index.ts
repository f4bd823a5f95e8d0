export * from './rehearse.js';
