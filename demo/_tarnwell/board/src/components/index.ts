export { AvalancheGauge } from './AvalancheGauge';
export { CalloutList } from './CalloutList';
export { RosterPanel } from './RosterPanel';
