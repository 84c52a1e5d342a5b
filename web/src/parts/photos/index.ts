export { PhotoImage, pictureAddress } from './photo-image';
export { photoWords } from './photo-strip';
export { EntryPhotos, FishPhotos, photosOfFish, TripPhotos } from './record-photos';
