// Package wavfile reads recordings: WAVE files of any usual rate and depth, as samples of one channel.
package wavfile
