import { describe, expect, it, test } from 'vitest';
import { countriesTyped } from '../../src/api/countries-typed.js';
import { countryName, countryOf, nearestCountry } from '../../src/core/country/countries.js';

describe('countries as people write them', () => {
  test.each([
    ['FI', 'FI'],
    ['fi', 'FI'],
    [' Finland ', 'FI'],
    ['Suomi', 'FI'],
    ['Eesti', 'EE'],
    ['Estonia', 'EE'],
    ['Deutschland', 'DE'],
    ['germany', 'DE'],
    ['Österreich', 'AT'],
    ['Osterreich', 'AT'],
    ['Schweiz', 'CH'],
    ['Suisse', 'CH'],
    ['Svizzera', 'CH'],
    ['Latvija', 'LV'],
    ['Ísland', 'IS'],
    ['UK', 'GB'],
    ['United Kingdom', 'GB'],
    ['Great Britain', 'GB'],
    ['USA', 'US'],
    ['Holland', 'NL'],
    ['Nederland', 'NL'],
    ['Ελλάδα', 'GR'],
    ['日本', 'JP'],
    ['Côte d’Ivoire', 'CI'],
    ['Atlantis', null],
    ['XX', null],
    ['EU', null],
    ['', null],
  ])('%s: %s', (text, code) => {
    expect(countryOf(text)).toBe(code);
  });

  it('slips are told with what was meant', () => {
    expect(nearestCountry('Finlnd')).toBe('Finland (FI)');
    expect(nearestCountry('Estonja')).toBe('Estonia (EE)');
    expect(nearestCountry('qqqqqqqq')).toBeNull();
    expect(countryName('LV')).toBe('Latvia');
  });

  test.each([
    ['FI EE', ['FI', 'EE']],
    ['FI,EE', ['FI', 'EE']],
    ['FI, United Kingdom; Latvia', ['FI', 'United Kingdom', 'Latvia']],
    ['United Kingdom', ['United Kingdom']],
    [' , ', []],
  ])('%s is parted', (text, parts) => {
    expect(countriesTyped(text)).toEqual(parts);
  });
});
