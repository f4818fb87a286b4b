// Package theory holds notes, degrees, chord symbols and keys: what a chord is
// made of and what it does in a key. It knows nothing of strings or frets.
//
// Values are small and comparable. Every Parse function has a String that is
// its inverse on canonical spellings.
package theory
