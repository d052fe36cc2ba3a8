class Ring { public: void strike(int times); int count; void mute(); }; // @def count
