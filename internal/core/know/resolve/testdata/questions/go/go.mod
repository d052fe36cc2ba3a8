module tarn
