export { PhotoImage, pictureAddress } from './photo-image';
export { photoWords } from './photo-strip';
export { EntryPhotos, FishPhotos, photosOfFish, TripPhotos } from './record-photos';
export { readPhoto, type ReadPhoto } from './read-photo';
export { usePhotos } from './use-photos';
