import { config } from '@vue/test-utils';

config.global.mocks = { $studio: 'North Yard Pottery' };
