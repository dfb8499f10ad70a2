'use client';

import { useState } from 'react';

/** A page that the server has drawn. */
export function PageImage({
  address,
  name,
  width,
  turned,
  onRatio,
}: {
  readonly address: string;
  readonly name: string;
  readonly width: number;
  readonly turned: number;
  /** Told the page's height by its width once it is there. */
  readonly onRatio: (ratio: number) => void;
}) {
  const [state, setState] = useState<'coming' | 'here' | 'failed'>('coming');
  const [ratio, setRatio] = useState(Math.SQRT2);
  const isSideways = turned % 180 !== 0;
  const high = isSideways ? width / ratio : width * ratio;
  return (
    <div className="grid place-items-center overflow-hidden bg-white text-[#4a5653]" style={{ width, height: high }}>
      {state === 'failed' ? (
        <p className="p-6">This page cannot be shown. Nothing is lost; try again later.</p>
      ) : (
        <img
          src={address}
          alt={name}
          draggable={false}
          onLoad={({ currentTarget: { naturalHeight, naturalWidth } }) => {
            setState('here');
            setRatio(naturalHeight / naturalWidth);
            onRatio(naturalHeight / naturalWidth);
          }}
          onError={() => setState('failed')}
          style={{ width: isSideways ? high : width, transform: `rotate(${turned}deg)`, maxWidth: 'none' }}
        />
      )}
    </div>
  );
}
