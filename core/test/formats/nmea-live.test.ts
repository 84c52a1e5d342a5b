import { expect } from 'chai';
import { LiveNmea, nmeaSentence, readSentence, type BoatNews, type Sentence } from '../../src/formats';

const nmea = new LiveNmea();
const say = (body: string, now = 0): BoatNews | null => nmea.take(readSentence(nmeaSentence(body)) as Sentence, now);

describe('a boat’s network, as it speaks', () => {
  it('gives the boat with each position, with what was said before it', () => {
    expect(say('SDDPT,6.20,0.40,')).to.equal(null);
    expect(say('IIMTW,18.5,C')).to.equal(null);
    expect(say('WIMWD,240.0,T,,M,,N,4.0,M')).to.equal(null);
    expect(say('GPHDT,91.5,T')).to.equal(null);
    const boat = say('GPRMC,120000.00,A,4812.00000,N,03436.00000,W,3.888,90.00,250726,,,A')!;
    expect(boat).to.include({
      latitude: 48.2,
      longitude: -34.6,
      course: 90,
      heading: 91.5,
      temperature: 18.5,
      windFrom: 240,
      windSpeed: 4,
    });
    // 3.888 knots; 6.2 m below a transducer 0.4 m down.
    expect(boat.speed).to.be.closeTo(2, 0.001);
    expect(boat.depth).to.be.closeTo(6.6, 1e-9);
  });
  it('does not say the same position twice, nor one that is not valid', () => {
    expect(say('GPGGA,120000.00,4812.00000,N,03436.00000,W,1,08,0.9,10,M,,M,,', 100)).to.equal(null);
    expect(say('GPRMC,120001.00,V,4812.00000,N,03436.00000,W,,,250726,,,N', 200)).to.equal(null);
    // Where RMC falls silent, what is left speaks for itself, and old depths are not taken along.
    const later = say('GPGGA,120030.00,4812.10000,N,03436.00000,W,1,08,0.9,10,M,,M,,', 30_000)!;
    expect(later.latitude).to.be.closeTo(48.201667, 1e-6);
    expect(later.depth).to.equal(null);
  });
  it('adds a transducer’s depth below the surface, and nothing for one measured to the keel', () => {
    const depthSaid = (body: string): number | null => {
      const boat = new LiveNmea();
      const hear = (text: string, now: number): BoatNews | null => boat.take(readSentence(nmeaSentence(text)) as Sentence, now);
      hear(body, 0);
      return hear('GPRMC,120000.00,A,4812.00000,N,03436.00000,W,3.888,90.00,250726,,,A', 100)!.depth;
    };
    expect(depthSaid('SDDPT,6.20,0.40,')).to.be.closeTo(6.6, 1e-9);
    expect(depthSaid('SDDPT,6.20,-0.40,')).to.be.closeTo(6.2, 1e-9);
    expect(depthSaid('SDDBT,20.0,f,,M,,F')).to.be.closeTo(6.096, 1e-9);
    expect(depthSaid('SDDBS,,f,,M,4.0,F')).to.be.closeTo(7.3152, 1e-9);
  });
  it('lets the sounder speak first, for two seconds and no longer', () => {
    const place = 'GPRMC,120000.00,A,4812.00000,N,03436.00000,W,3.888,90.00,250726,,,A';
    const sounder = new LiveNmea();
    const hear = (body: string, now: number): BoatNews | null => sounder.take(readSentence(nmeaSentence(body)) as Sentence, now);
    expect(hear(place, 0)).to.equal(null);
    expect(hear('SDDPT,6.20,0.40,', 100)).to.equal(null);
    expect(hear(place, 200)!.depth).to.be.closeTo(6.6, 1e-9);
    const none = new LiveNmea();
    const times = [0, 500, 1000, 1500, 2000, 2500];
    const heard = times.map((t) => none.take(readSentence(nmeaSentence(place)) as Sentence, t));
    expect(heard.map((h) => h !== null)).to.deep.equal([false, false, false, false, true, true]);
    expect(heard[4]!.depth).to.equal(null);
  });
});
