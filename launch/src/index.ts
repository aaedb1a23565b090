export { Cluster } from './cluster.js';
export { dataFolder, StartError } from './places.js';
