import { tableOf } from './files.js';

/** Fourteen days on which tennis was played or not (Quinlan, Machine Learning 1, 1986, table 1; Mitchell, Machine Learning, 1997, table 3.2). */
export const weather = () =>
  tableOf(`outlook,temperature,humidity,wind,play
sunny,hot,high,weak,no
sunny,hot,high,strong,no
overcast,hot,high,weak,yes
rain,mild,high,weak,yes
rain,cool,normal,weak,yes
rain,cool,normal,strong,no
overcast,cool,normal,strong,yes
sunny,mild,high,weak,no
sunny,cool,normal,weak,yes
rain,mild,normal,weak,yes
sunny,mild,normal,strong,yes
overcast,mild,high,strong,yes
overcast,hot,normal,weak,yes
rain,mild,high,strong,no
`);
