import sharp from 'sharp';

/**
 * A picture as a phone takes it: lying on its side, 60 px by 40 px upright, yellow at the upper left as the sensor has it, with
 * place, time and camera written into it.
 * @param taken as cameras write it: 2026:05:02 07:10:00
 */
export const phonePicture = (taken: string, side = 20): Promise<Buffer> =>
  sharp({ create: { width: 3 * side, height: 2 * side, channels: 3, background: '#2266aa' } })
    .composite([
      {
        input: Buffer.from(`<svg width="${side}" height="${side}"><rect width="${side}" height="${side}" fill="#ffcc00"/></svg>`),
        left: 0,
        top: 0,
      },
    ])
    .jpeg()
    .withExif({
      IFD0: { Make: 'A phone' },
      IFD2: { DateTimeOriginal: taken, OffsetTimeOriginal: '+00:00' },
      IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '48/1 12/1 0/1', GPSLongitudeRef: 'W', GPSLongitude: '34/1 36/1 0/1' },
    })
    .withMetadata({ orientation: 6 })
    .toBuffer();
